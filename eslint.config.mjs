import js from '@eslint/js';
import regexp from 'eslint-plugin-regexp';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const takesConnection = {
  // What listens for news has a connection of its own.
  selector: "CallExpression[callee.property.name='connect'][callee.object.name!='subscriber'][arguments.length=0]",
  message: 'Only transaction and hold take a connection out of a pool.',
};

const nativeControl = {
  selector: 'JSXOpeningElement[name.name=/^(button|input|select|textarea|table|thead|tbody|tfoot|tr|td|th|dialog|progress|details)$/]',
  message: "Take MUI's part for it, or the kit's.",
};
const inlineStyle = {
  selector: "JSXOpeningElement[name.name!='svg'] > JSXAttribute[name.name='style']",
  message: 'Say it with sx, or in the theme.',
};

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
      'no-restricted-syntax': ['error', takesConnection],
    },
  },
  {
    // Statements are put together with Drizzle, typed by the schema; what only the database can say is a function in server/db.
    files: ['server/**/*.ts'],
    ignores: ['server/db/**', 'server/testing/**', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        takesConnection,
        {
          selector: "CallExpression[callee.property.name='query'][callee.object.type!='ThisExpression']",
          message: 'Ask with Drizzle: tx.db, or drizzleOn(pool).',
        },
        { selector: "MemberExpression[object.name='sql'][property.name='raw']", message: 'SQL is not put together from text.' },
        {
          selector:
            "TaggedTemplateExpression[tag.name='sql'] > TemplateLiteral > TemplateElement:first-child[value.raw=/^\\s*\\(?\\s*(select|insert|update|delete|with)\\b/i]",
          message: 'Use the query builder for a statement; sql is for pieces that it cannot say.',
        },
        {
          selector: 'Literal[value=/^\\s*(SELECT|INSERT INTO|DELETE FROM|UPDATE [a-z_]+ SET|WITH [a-z_]+ AS)\\b/]',
          message: 'A statement is put together with Drizzle, not written as text.',
        },
        {
          selector:
            ':not(TaggedTemplateExpression) > TemplateLiteral > TemplateElement:first-child[value.raw=/^\\s*(SELECT|INSERT INTO|DELETE FROM|UPDATE [a-z_]+ SET|WITH [a-z_]+ AS)\\b/]',
          message: 'A statement is put together with Drizzle, not written as text.',
        },
      ],
    },
  },
  // A fixture of Playwright says by this pattern which others it needs, also when it needs none.
  { files: ['e2e/**/*.ts'], rules: { 'no-empty-pattern': ['error', { allowObjectPatternsAsParameters: true }] } },
  { files: ['web/**/*.{ts,tsx}'], plugins: { 'react-hooks': hooks }, rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' } },
  {
    // What one touches is MUI's, and how it looks is said in the theme.
    files: ['web/**/*.tsx'],
    ignores: ['**/*.test.tsx'],
    rules: { 'no-restricted-syntax': ['error', nativeControl, inlineStyle] },
  },
  // As high as rows that are not drawn: another height at each turn of the wheel.
  { files: ['web/kit/ListRows.tsx'], rules: { 'no-restricted-syntax': ['error', nativeControl] } },
  { files: ['web/kit/DropFile.tsx'], rules: { 'no-restricted-syntax': ['error', inlineStyle] } },
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
