/** So many are enough: a script that names more was made by a tool for pages of all kinds. */
const most = 50;

const quote = '(["\'`])';
const name = '[A-Za-z_$][\\w$]*';
/** An element, or several, looked for by an id, a name or a selector; of several mostly one is taken by its number. */
const lookedFor = `(getElementById|querySelector|querySelectorAll|\\$|jQuery)\\(\\s*${quote}([^"'\`]{1,80})`;
const oneOfThem = '(?:\\s*\\[[^\\]\\n]{1,30}\\])?';
/** What writes an address: an assignment, or a call with a second argument. What takes it from the element itself is a script that loads lazily. */
const writes = `\\.(?:src\\s*=(?!=)|(?:setAttribute|attr|prop)\\(\\s*["'\`]src["'\`]\\s*,)`;

const direct = new RegExp(`${lookedFor}\\2\\s*\\)${oneOfThem}${writes}`, 'g');
/** Images by their names, as documents know them. HTML, section 3.1.5 "DOM tree accessors". */
const byName = new RegExp(
  `document(?:\\.images)?(?:\\.(${name})|\\[\\s*${quote}([^"'\`]{1,80})\\2\\s*\\])${writes}`,
  'g',
);
/** A variable, or a property of something. */
const bound = new RegExp(
  `(?<![\\w$])(${name})\\s*[=:]\\s*(?:[\\w$.]{1,60}\\.)?${lookedFor}\\3\\s*\\)(?!\\s*\\.)`,
  'g',
);
/** Each one of several that a variable holds. */
const each = new RegExp(
  `(?<![\\w$])(?:(${name})\\.forEach\\(\\s*(?:function\\s*)?\\(?\\s*(${name})|for\\s*\\(\\s*(?:const|let|var)\\s+(${name})\\s+of\\s+(${name})\\s*\\))`,
  'g',
);
const written = new RegExp(
  `(?<![\\w$])((?:[\\w$]{1,40}\\.){0,3})(${name})${oneOfThem}${writes}\\s*([^;,)]{0,40})`,
  'g',
);

/** In short code that nobody laid out one letter has another meaning in each function: only what stands near belongs together, characters. */
const near = { short: 200, long: 20_000 };

interface Binding {
  index: number;
  variable: string;
  /** What it holds: by a selector, or each of what another variable holds. */
  selector?: string;
  of?: string;
}

/**
 * Selectors of the elements whose `src` a script writes, as galleries do that show another picture in the same place: by an id, a name or a selector, at once,
 * by a variable or a property, or by an id that is a variable by itself (HTML, section 7.2.2.3 "Named access on the Window object"). What only looks like it
 * may be among them: it finds nothing.
 */
export function writtenSources(script: string): string[] {
  const found = new Set<string>();
  const add = (...selectors: string[]) => selectors.forEach((selector) => found.add(selector));
  for (const [, how = '', , text = ''] of script.matchAll(direct)) add(selectorOf(how, text));
  for (const [, plain, , quoted] of script.matchAll(byName)) {
    const own = plain ?? quoted ?? '';
    if (!ofDocuments.test(own)) add(...named(own));
  }
  const bindings = bindingsIn(script);
  const latest = new Map<string, { index: number; selector: string }>();
  let next = 0;
  for (const { index, 1: chain = '', 2: variable = '', 3: value = '' } of script.matchAll(written)) {
    for (let binding = bindings[next]; binding && binding.index < index; binding = bindings[++next]) {
      const selector = binding.selector ?? latest.get(binding.of ?? '')?.selector;
      if (selector !== undefined) latest.set(binding.variable, { index: binding.index, selector });
    }
    const own = chain + variable;
    if (value.startsWith(`${own}.`) && /^\.(dataset|getAttribute|attr|data)\b/.test(value.slice(own.length)))
      continue;
    const last = latest.get(variable);
    if (last && index - last.index < (variable.length < 3 ? near.short : near.long)) add(last.selector);
    else if (!last && /^(window\.)?$/.test(chain) && variable !== 'this') add(...named(variable));
  }
  return [...found].slice(0, most);
}

/** What documents have of their own. */
const ofDocuments = /^(images|scripts|embeds|forms|links|body|head|documentElement|currentScript)$/;

/** In the order of the script. */
function bindingsIn(script: string): Binding[] {
  const bindings: Binding[] = [];
  for (const { index, 1: variable = '', 2: how = '', 4: text = '' } of script.matchAll(bound))
    bindings.push({ index, variable, selector: selectorOf(how, text) });
  for (const { index, 1: all, 2: one, 3: other, 4: others } of script.matchAll(each))
    bindings.push({ index, variable: one ?? other ?? '', of: all ?? others ?? '' });
  return bindings.sort((a, b) => a.index - b.index);
}

/** Whether a script, or what stands in an attribute for an event, writes an address into `src`. */
export const writesSource = (script: string): boolean => /\.src\s*=(?!=)/.test(script);

/**
 * Whether a script takes the `src` of one image for another one, as galleries do that show enlarged what is clicked on. What an image takes from its own
 * attributes is not meant.
 */
export const copiesSource = (script: string): boolean => copied.test(script);

const holder = '[\\w$.[\\]]{1,60}';
/** The address of an image: its property, or its attribute. */
const taken = `(?:${holder}(?<!dataset)\\.src\\b|(?:${holder}|\\$\\(this\\))\\.(?:attr|prop|getAttribute)\\(\\s*["'\`]src["'\`])`;
const copied = new RegExp(`${writes}\\s*${taken}`);

const named = (own: string) => [`#${own}`, `img[name="${own}"]`];

const selectorOf = (how: string, text: string) => (how === 'getElementById' ? `#${text}` : text);
