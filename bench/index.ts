/** Runs the measuring programs that are named, else those of arithmetic and encodes: "npm run bench -- visits ./public". */
import { fileURLToPath } from 'node:url';
import { execa } from 'execa';

const names = ['picks', 'encodes', 'visits', 'templates'];
const given = process.argv.slice(2);
const chosen = given.filter((each) => names.includes(each));
const rest = given.filter((each) => !names.includes(each));
for (const name of chosen.length > 0 ? chosen : ['picks', 'encodes'])
  await execa(
    process.execPath,
    ['--import', 'tsx', fileURLToPath(new URL(`${name}.ts`, import.meta.url)), ...rest],
    {
      stdio: 'inherit',
    },
  );
