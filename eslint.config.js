import js from '@eslint/js';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** What the core may use from outside itself: parsers and schemas, nothing that touches the world. */
const coreAllows = ['url-template', 'yup', 'css-tree', 'parse5'];

/** The arrows of docs/architecture.md: each layer with the layers it must not import. */
const layers = [
  { files: 'src/site/**', bans: ['browser', 'images', 'survey', 'report', 'mending', 'cli'] },
  { files: 'src/browser/**', bans: ['site', 'images', 'survey', 'report', 'mending', 'cli'] },
  { files: 'src/images/**', bans: ['site', 'browser', 'survey', 'report', 'mending', 'cli'] },
  { files: 'src/survey/**', bans: ['report', 'mending', 'cli'] },
  { files: 'src/mending/**', bans: ['browser', 'report', 'cli'] },
  { files: 'src/report/**', bans: ['site', 'browser', 'images', 'survey', 'mending', 'cli'] },
];

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'demo/site'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    languageOptions: { globals: globals.node },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'error',
      'prefer-const': 'error',
    },
  },
  {
    files: ['src/browser/in-page/**', 'src/report/html/in-page/**'],
    languageOptions: { globals: globals.browser },
  },
  {
    files: ['src/core/**'],
    languageOptions: { globals: {} },
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: `^(?!\\.{1,2}/|(${coreAllows.join('|')})$)`, message: 'The core computes only.' },
            {
              regex: '(^|/)(site|browser|images|survey|report|mending|cli)/',
              message: 'The core imports nothing of the other layers.',
            },
          ],
        },
      ],
      'no-restricted-globals': [
        'error',
        ...['process', 'console', 'fetch', 'Date', 'performance', 'setTimeout', 'setInterval', 'Buffer'],
      ],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  ...layers.map(({ files, bans }) => ({
    files: [files],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: `^\\.\\./(\\.\\./)*(${bans.join('|')})/`, message: 'Arrows run one way.' }] },
      ],
    },
  })),
  {
    files: ['test/**', 'scripts/**'],
    rules: { '@typescript-eslint/no-unused-expressions': 'off', 'no-console': 'off', 'max-lines': 'off' },
  },
);
