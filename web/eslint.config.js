import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/*.gen.ts'] },
  js.configs.recommended,
  ...ts.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  hooks.configs.flat.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/unbound-method': 'off', // d3 takes its own methods as values
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    },
  },
  {
    // What a set is made of is for its drawing and the bench to know; other pages ask draw/parts.
    ignores: ['src/bench/**', 'src/draw/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...[
          'MemberExpression > MemberExpression.object[property.name="layout"]',
          'VariableDeclarator[init.property.name="layout"] > ObjectPattern',
        ].map((selector) => ({ selector, message: 'Ask draw/parts what the layout holds.' })),
      ],
    },
  },
  prettier,
);
