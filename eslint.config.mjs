import js from '@eslint/js';
import regexp from 'eslint-plugin-regexp';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '.data/**', '.bench/**', '.stryker/**', 'server/db/migrations/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { regexp },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      eqeqeq: 'error',
      // Patterns that a long text can make run for minutes.
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['server/**/*.ts'],
    ignores: ['server/db/database.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.property.name='connect'][arguments.length=0]",
          message: 'Only transaction and hold take a connection out of a pool.',
        },
      ],
    },
  },
  { files: ['web/**/*.{ts,tsx}'], plugins: { 'react-hooks': hooks }, rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' } },
  {
    files: ['**/*.mjs', '**/*.cjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        module: 'writable',
        fetch: 'readonly',
        setTimeout: 'readonly',
        performance: 'readonly',
      },
    },
  },
);
