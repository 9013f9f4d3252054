import { parseTemplate } from 'url-template';
import { decoded } from '../markup/decoded.js';

/** What an address of a host that resizes says of the picture that it gives. */
export interface HostVariables {
  path: string;
  /** Device px. */
  width?: string;
  height?: string;
  format?: string;
  quality?: string;
}

const names = ['path', 'width', 'height', 'format', 'quality'] as const;
type Name = (typeof names)[number];
const isName = (text: string): text is Name => (names as readonly string[]).includes(text);

/** A version of a picture that is asked for. */
export interface HostWish {
  /** Device px. */
  width: number;
  /** Left as it is if left out. */
  format?: string | undefined;
  quality?: number | null | undefined;
}

/** Addresses on the audited site are paths from its root. */
const site = 'http://site.invalid';

/** A host that gives a picture in any width by its address, told by a URI Template (RFC 6570). */
export class ImageHost {
  readonly #path: RegExp;
  readonly #pathTemplate: ReturnType<typeof parseTemplate>;
  readonly #inPath: readonly { name: Name; list: boolean; raw: boolean }[];
  /** Names of parameters, by the variables that they hold. */
  readonly #inQuery = new Map<Name, string>();

  /**
   * @param template with `{path}`, `{width}` and, where the host has them, `{height}`, `{format}`, `{quality}`: in its path as `{x}`, `{+x}` or
   *   `{/x*}`, in its query as `name={x}`, `{?x,y}` or `{&x,y}`
   * @throws {RangeError} for a template that says too little, or something else
   */
  constructor(readonly template: string) {
    const cut = template.search(/\?|\{[?&]/);
    const [path, query] = cut < 0 ? [template, ''] : [template.slice(0, cut), template.slice(cut)];
    if (!/^(https?:\/\/[^/{}]+)?\//i.test(path))
      throw new RangeError('must begin with https://host/ or with /');
    this.#pathTemplate = parseTemplate(path);
    this.#inPath = [...path.matchAll(/\{([^}]*)\}/g)].map(([, inner = '']) => expressionOf(inner));
    this.#path = patternOf(path);
    for (const [, name = '', variable = ''] of query.matchAll(/([^?&={}]+)=\{(\w+)\}/g))
      this.#hold(variable, name);
    for (const [, list = ''] of query.matchAll(/\{[?&]([\w,]+)\}/g))
      for (const each of list.split(',')) this.#hold(each, each);
    const has = (name: Name) => this.#inQuery.has(name) || this.#inPath.some((each) => each.name === name);
    for (const name of ['path', 'width'] as const)
      if (!has(name)) throw new RangeError(`must have the variable {${name}}`);
  }

  #hold(variable: string, name: string): void {
    if (!isName(variable))
      throw new RangeError(`knows no variable {${variable}}: it has ${names.join(', ')}`);
    this.#inQuery.set(variable, name);
  }

  /** Whether an address says, or may say, the value of a variable. */
  has(name: Name): boolean {
    return this.#inQuery.has(name) || this.#inPath.some((each) => each.name === name);
  }

  /** What an address says; undefined for one of another form. */
  read(address: string): HostVariables | undefined {
    const [path = '', search = ''] = split(address);
    const match = this.#path.exec(path);
    if (!match) return undefined;
    const found: Partial<Record<Name, string>> = {};
    this.#inPath.forEach(({ name }, index) => (found[name] ??= match[index + 1] ?? ''));
    if (this.#expand(found) !== path) return undefined;
    const parameters = new URLSearchParams(search);
    for (const [variable, name] of this.#inQuery) {
      const value = parameters.get(name);
      if (value !== null && value !== '') found[variable] = value;
    }
    const numeric = (value: string | undefined) => value === undefined || /^\d{1,5}$/.test(value);
    if (found.path === undefined || !numeric(found.width) || !numeric(found.height)) return undefined;
    return { ...found, path: found.path };
  }

  /** The address of another version of the picture at an address; undefined where that is none of this host. */
  write(address: string, { width, format, quality }: HostWish): string | undefined {
    const now = this.read(address);
    if (!now) return undefined;
    const ratio = Number(now.height) / Number(now.width);
    const changed: HostVariables = {
      ...now,
      width: String(width),
      ...(now.height !== undefined && now.width !== undefined
        ? { height: String(Math.round(width * ratio)) }
        : {}),
      ...(format === undefined || !this.has('format') ? {} : { format: format === 'jpeg' ? 'jpg' : format }),
      ...(quality === undefined || quality === null || !this.has('quality')
        ? {}
        : { quality: String(Math.round(quality)) }),
    };
    const [, search = ''] = split(address);
    const path = this.#expand(changed);
    return path + this.#query(search, changed);
  }

  /** Parameters of an address that hold no variable stay as they are, and where they are. */
  #query(search: string, changed: HostVariables): string {
    const open = new Map([...this.#inQuery].map(([variable, name]) => [name, changed[variable]]));
    const pairs = search === '' ? [] : search.split('&');
    const kept = pairs.map((pair) => {
      const name = decoded(pair.replace(/=.*$/s, ''));
      const value = open.get(name);
      open.delete(name);
      return value === undefined ? pair : `${encodeURIComponent(name)}=${encodeURIComponent(value)}`;
    });
    for (const [name, value] of open)
      if (value !== undefined) kept.push(`${encodeURIComponent(name)}=${encodeURIComponent(value)}`);
    return kept.length > 0 ? `?${kept.join('&')}` : '';
  }

  #expand(values: Partial<Record<Name, string>>): string {
    const given: Record<string, string | string[]> = {};
    for (const { name, list, raw } of this.#inPath) {
      const value = values[name] ?? '';
      given[name] = list
        ? value
            .split('/')
            .filter((part) => part !== '')
            .map(decoded)
        : raw
          ? value
          : decoded(value);
    }
    return this.#pathTemplate.expand(given);
  }
}

function expressionOf(inner: string): { name: Name; list: boolean; raw: boolean } {
  const [, operator = '', name = '', many = ''] = /^([+/]?)(\w+)(\*?)$/.exec(inner) ?? [];
  if (!isName(name)) throw new RangeError(`knows no variable {${inner}}: it has ${names.join(', ')}`);
  return { name, list: operator === '/' && many === '*', raw: operator === '+' };
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');

/** What a part of a path may hold, by how its template expands it. */
function patternOf(path: string): RegExp {
  const parts = path.split(/(\{[^}]*\})/).map((part) => {
    if (!part.startsWith('{')) return escaped(part);
    const { name, list, raw } = expressionOf(part.slice(1, -1));
    if (name === 'width' || name === 'height' || name === 'quality')
      return part.startsWith('{/') ? '\\/(\\d+)' : '(\\d+)';
    if (list) return '((?:\\/[^/?#]+)+)';
    if (part.startsWith('{/')) return '\\/([^/?#]+)';
    return raw ? '([^?#]+)' : '([^/?#]+)';
  });
  return new RegExp(`^${parts.join('')}$`);
}

function split(address: string): [path: string, search: string] {
  const [, path = '', search = ''] = /^([^?#]*)\??([^#]*)/.exec(address) ?? [];
  return [path.startsWith(site) ? path.slice(site.length) : path, search];
}

/** The hosts that a site's pictures come from. */
export class ImageHosts {
  constructor(readonly hosts: readonly ImageHost[]) {}

  /** The host that an address is of, as far as one is known. */
  at(address: string): ImageHost | undefined {
    return this.hosts.find((host) => host.read(address) !== undefined);
  }

  /** The address of another version of the picture at an address; undefined where no host is known for it. */
  address(of: string, wish: HostWish): string | undefined {
    return this.at(of)?.write(of, wish);
  }

  /** Whether the format of the picture at an address can be chosen: one that asks for it by itself leaves that to the host. */
  choosesFormat(address: string): boolean {
    const host = this.at(address);
    return host?.has('format') === true && host.read(address)?.format !== 'auto';
  }
}
