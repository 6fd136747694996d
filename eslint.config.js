import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/dist/', 'coverage/', 'test-results/', 'playwright-report/', 'node_modules/'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      'max-lines': ['error', { max: 500, skipBlankLines: true, skipComments: true }],
      'no-console': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  { files: ['web/**/*.tsx', 'web/**/*.ts'], ...hooks.configs.flat['recommended-latest'] },
  {
    // One list of one kind, and one place where it is made.
    files: ['web/**/*.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: "JSXOpeningElement[name.name='select']", message: 'Select of ui/select.tsx is the list of this interface.' },
        {
          selector: 'Literal[value=/text-\\[[0-9.]+px\\]/], TemplateElement[value.raw=/text-\\[[0-9.]+px\\]/]',
          message: 'Sizes of text are those of styles.css: they grow with what a reader has set.',
        },
      ],
    },
  },
  { files: ['scripts/**', 'cli/**', '**/*.config.ts', '**/*.test.ts'], rules: { 'no-console': 'off' } },
  {
    files: ['**/*.cjs', '**/*.mjs'],
    languageOptions: {
      globals: {
        module: 'writable',
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        localStorage: 'readonly',
      },
    },
  },
);
