import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Extractor, ExtractorConfig, ExtractorLogLevel } from '@microsoft/api-extractor';

const root = fileURLToPath(new URL('..', import.meta.url));

/** What the package gives: the whole program, and computation alone. */
const entries = { yukkuri: 'dist/src/index.d.ts', 'yukkuri-core': 'dist/src/core/index.d.ts' };

/**
 * Holds the types of the built library against the reviewed files in docs/api.
 * @param write writes them anew where they differ
 * @returns names of those that differ
 */
export function apiReports({ write }: { write: boolean }): string[] {
  mkdirSync(`${root}/docs/api`, { recursive: true });
  return Object.entries(entries).flatMap(([name, entry]) => {
    const config = ExtractorConfig.prepare({
      configObject: {
        projectFolder: root,
        mainEntryPointFilePath: `${root}/${entry}`,
        compiler: { tsconfigFilePath: `${root}/tsconfig.json` },
        apiReport: {
          enabled: true,
          reportFileName: name,
          reportFolder: `${root}/docs/api`,
          reportTempFolder: `${root}/dist/api`,
        },
        docModel: { enabled: false },
        dtsRollup: { enabled: false },
        tsdocMetadata: { enabled: false },
        newlineKind: 'lf' as never,
        messages: {
          compilerMessageReporting: { default: { logLevel: ExtractorLogLevel.None } },
          extractorMessageReporting: { default: { logLevel: ExtractorLogLevel.None } },
          tsdocMessageReporting: { default: { logLevel: ExtractorLogLevel.None } },
        },
      },
      configObjectFullPath: undefined,
      packageJsonFullPath: `${root}/package.json`,
    });
    const { apiReportChanged } = Extractor.invoke(config, {
      localBuild: write,
      messageCallback: (message) => {
        message.handled = true;
      },
    });
    return apiReportChanged ? [name] : [];
  });
}
