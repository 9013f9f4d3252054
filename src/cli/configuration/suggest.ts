import { stringify } from 'yaml';

/** What a first configuration is made from. */
export interface Answers {
  basePath: string;
  /** Newer formats that the site may use, best first. */
  formats: readonly string[];
  /** Share of visits on phones, 0 to 1. */
  phones: number;
  /** File for paths without a file of their own; undefined where there is none. */
  fallback: string | undefined;
  /** Bytes that the first view of any page may weigh; undefined for no limit. */
  firstView: number | undefined;
}

/** A first configuration, with what each part is for. */
export function firstConfiguration({ basePath, formats, phones, fallback, firstView }: Answers): string {
  const left = 1 - phones;
  const share = (part: number) => Math.round(part * 1000) / 1000;
  const parts: [comment: string, value: Record<string, unknown>][] = [
    [
      'Settings of yukkuri: every option of "yukkuri audit" by its name, and what only a file can say.\nThe screens of your visitors; shares of visits sum to 1.',
      {
        screens: {
          phone: { width: 390, height: 844, density: 3, touch: true, share: share(phones) },
          tablet: { width: 820, height: 1180, density: 2, touch: true, share: share(left * 0.2) },
          laptop: { width: 1440, height: 900, density: 2, share: share(left * 0.45) },
          desktop: { width: 1920, height: 1080, share: share(left * 0.35) },
        },
      },
    ],
    ...(basePath === '/' ? [] : [['The path below which the site lies on its host.', { basePath }] as const]),
    ...(fallback === undefined
      ? []
      : [['The file that your host sends for paths without a file of their own.', { fallback }] as const]),
    ['Newer formats that the site may use, best first.', { formats: formats.join(',') || 'none' }],
    ...(firstView === undefined
      ? []
      : [
          [
            'What pages may weigh; beyond a limit the exit code is 1.',
            { limits: [{ pages: '/**', firstView: `${Math.ceil(firstView / 1000)} kB`, shift: 0.1 }] },
          ] as const,
        ]),
  ].map(([comment, value]) => [comment as string, value as Record<string, unknown>]);
  const written = parts.map(
    ([comment, value]) =>
      `${comment.replace(/^/gm, '# ')}\n${stringify(value, { flowCollectionPadding: true })}`,
  );
  const example = [
    '# Findings that are to be left out, each with a reason and the last day on which it holds:',
    '# leave:',
    '#   - { check: no-text-alternative, pages: /archive/**, reason: nobody edits it, until: 2030-12-31 }',
  ].join('\n');
  return `${[...written, example].join('\n')}\n`;
}
