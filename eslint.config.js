import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';

const SAID_IN_CORE = 'What a number or a text may be is said beside its schema in core: read it from there.';

/** A bound written out in the interface, in any of the ways it was once done. */
const literalBounds = [
  'JSXAttribute[name.name=/^(least|most|min|max|mostMm|maxLength|minLength)$/] > JSXExpressionContainer > Literal',
  'Property[key.name=/^(least|most|maxLength|minLength)$/] > Literal',
  "CallExpression[callee.property.name='slice'][arguments.0.value=0][arguments.1.raw=/^\\d{2,}$/]",
  "BinaryExpression[left.property.name='length'][right.raw=/^\\d{2,}$/]",
].map((selector) => ({ selector, message: SAID_IN_CORE }));

/** React's compiler reads what a handler depends on while rendering: what may be missing then has to be asked for, not asserted. */
const assertedInHandler = {
  selector: ':function :function MemberExpression > TSNonNullExpression.object',
  message: 'The compiler reads this while rendering, when it may be missing: ask for it instead.',
};

export default tseslint.config(
  { ignores: ['dist', 'node_modules', '.data', 'test-results', 'playwright-report'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      'no-restricted-globals': ['error', { name: 'event', message: 'Name the event parameter.' }],
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-console': 'error',
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
          message: 'core is deterministic: use a seeded generator.',
        },
        {
          selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']",
          message: 'core has no clock.',
        },
      ],
    },
  },
  { files: ['web/**/*.{ts,tsx}'], ...reactHooks.configs.flat.recommended },
  {
    files: ['web/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: { 'no-restricted-syntax': ['error', ...literalBounds] },
  },
  {
    files: ['web/**/*.tsx'],
    ignores: ['**/*.test.tsx'],
    rules: { 'no-restricted-syntax': ['error', ...literalBounds, assertedInHandler] },
  },
  { files: ['**/*.cjs'], languageOptions: { globals: { module: 'writable' } } },
);
