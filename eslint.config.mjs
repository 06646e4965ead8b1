import next from '@next/eslint-plugin-next';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';
import importRules, { READS_ENV } from './import-rules.mjs';

/** What the studio says stands in one catalogue; these are the places where words would stand otherwise. */
const WORDS = [
  'JSXText[value=/[a-z]{2}/i]',
  'JSXAttribute[name.name=/^(aria-label|title|placeholder|alt|label)$/] > Literal[value=/[a-z]/i]',
  'JSXAttribute[name.name="name"] > Literal[value=/^[A-Z]| /]',
  'JSXAttribute[name.name=/^(aria-label|title|placeholder|alt|label)$/] TemplateElement[value.raw=/[a-z]{2}/i]',
  'Property[key.name=/^(word|words|text|does|title|hint|note|placeholder)$/] > :matches(Literal[value=/[a-z]/i], TemplateLiteral)',
  'Property[key.name="name"] > Literal[value=/^[A-Z]| /]',
  'JSXExpressionContainer > :matches(ConditionalExpression, LogicalExpression) > Literal[value=/^[A-Z]|[a-z] [a-z]/]',
].map((selector) => ({ selector, message: 'What the studio says stands in src/core/words.' }));

export default [
  { ignores: ['**/.next/**', '.heathland/**', 'node_modules/**', 'next-env.d.ts', 'tests/fixtures/bad-imports/**'] },
  ...tseslint.configs.recommended.map((config) => ({ ...config, files: ['**/*.{ts,tsx}'] })),
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false },
      ],
      eqeqeq: 'error',
      'max-lines': ['error', { max: 400, skipBlankLines: true }],
    },
  },
  {
    files: ['src/**/*.tsx', 'src/ui/**/*.ts'],
    plugins: { 'react-hooks': reactHooks, '@next/next': next },
    rules: {
      ...reactHooks.configs.recommended.rules,
      ...next.configs['core-web-vitals'].rules,
      // Photos lie behind a sign-in or come out of the very file that is shown; an image optimiser must not see them.
      '@next/next/no-img-element': 'off',
    },
  },
  ...importRules,
  {
    // What nobody waits for fails unheard.
    files: ['src/**/*.{ts,tsx}', 'commands/**/*.ts', 'demo/**/*.ts', 'migrations/**/*.ts'],
    ignores: ['commands/bench/bare-next/**'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: { '@typescript-eslint/no-floating-promises': 'error' },
  },
  {
    files: ['src/ui/**/*.{ts,tsx}', 'src/app/**/*.tsx'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', READS_ENV, ...WORDS] },
  },
];
