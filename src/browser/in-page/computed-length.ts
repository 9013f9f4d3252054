/**
 * What a computed length comes to, CSS px, whose percentages are of a base; null where it is no length, such as `none` or `fit-content`.
 * CSS Values Level 4, section 10, and CSS Typed OM, section 4: the values of a computed `calc()`, `min()`, `max()` and `clamp()` are px and percentages.
 * @param base CSS px
 */
export function computedLength(value: CSSStyleValue | undefined | null, base: number): number | null {
  if (!(value instanceof CSSNumericValue)) return null;
  const length = evaluate(value, base);
  return Number.isFinite(length) ? length : null;
}

function evaluate(value: CSSNumericValue, base: number): number {
  if (value instanceof CSSUnitValue)
    return value.unit === 'percent'
      ? (value.value * base) / 100
      : /^(px|number)$/.test(value.unit)
        ? value.value
        : NaN;
  const all = (values: CSSNumericArray) => Array.from(values, (each) => evaluate(each, base));
  if (value instanceof CSSMathSum) return all(value.values).reduce((sum, each) => sum + each, 0);
  if (value instanceof CSSMathProduct) return all(value.values).reduce((product, each) => product * each, 1);
  if (value instanceof CSSMathNegate) return -evaluate(value.value, base);
  if (value instanceof CSSMathInvert) return 1 / evaluate(value.value, base);
  if (value instanceof CSSMathMin) return Math.min(...all(value.values));
  if (value instanceof CSSMathMax) return Math.max(...all(value.values));
  if (value instanceof CSSMathClamp) {
    const [lower, middle, upper] = [value.lower, value.value, value.upper].map((each) =>
      evaluate(each, base),
    );
    return Math.max(lower ?? NaN, Math.min(middle ?? NaN, upper ?? NaN));
  }
  return NaN;
}
