/** So many are enough: a script that names more was made by a tool for pages of all kinds. */
const most = 50;

const quote = '(["\'`])';
const name = '[A-Za-z_$][\\w$]*';
/** An element that is looked for by its id or by a selector. */
const lookedFor = `(getElementById|querySelector|\\$|jQuery)\\(\\s*${quote}([^"'\`]{1,80})`;
/** What writes an address: an assignment, or a call with a second argument. What takes it from the element itself is a script that loads lazily. */
const writes = `\\.(?:src\\s*=(?!=)|(?:setAttribute|attr|prop)\\(\\s*["'\`]src["'\`]\\s*,)`;

const direct = new RegExp(`${lookedFor}\\2\\s*\\)${writes}`, 'g');
const bound = new RegExp(
  `(?<![\\w$])(${name})\\s*=\\s*(?:[\\w$.]{1,60}\\.)?${lookedFor}\\3\\s*\\)(?!\\s*\\.)`,
  'g',
);
const written = new RegExp(`(?<![\\w$.])(${name})${writes}\\s*([^;,)]{0,40})`, 'g');

/** In short code that nobody laid out one letter has another meaning in each function: only what stands near belongs together, characters. */
const near = { short: 200, long: 20_000 };

/**
 * Selectors of the elements whose `src` a script writes, as galleries do that show another picture in the same place: by an id or a selector, at once
 * or by a variable, or by an id that is a variable by itself (HTML, section 7.2.2.3 "Named access on the Window object"). What only looks like it may be
 * among them: it finds nothing.
 */
export function writtenSources(script: string): string[] {
  const found = new Set<string>();
  for (const [, how = '', , text = ''] of script.matchAll(direct)) found.add(selectorOf(how, text));
  const bindings = [...script.matchAll(bound)];
  const latest = new Map<string, { index: number; selector: string }>();
  let next = 0;
  for (const { index, 1: variable = '', 2: value = '' } of script.matchAll(written)) {
    for (let each = bindings[next]; each && each.index < index; each = bindings[++next])
      latest.set(each[1] ?? '', { index: each.index, selector: selectorOf(each[2] ?? '', each[4] ?? '') });
    if (
      value.startsWith(`${variable}.`) &&
      /^\.(dataset|getAttribute|attr|data)\b/.test(value.slice(variable.length))
    )
      continue;
    const last = latest.get(variable);
    if (!last) found.add(`#${variable}`);
    else if (index - last.index < (variable.length < 3 ? near.short : near.long)) found.add(last.selector);
  }
  return [...found].slice(0, most);
}

const selectorOf = (how: string, text: string) => (how === 'getElementById' ? `#${text}` : text);
