import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const pages = ['today', 'ground', 'shed', 'bench', 'round', 'book', 'door', 'phone'];

/** What stands in a folder imports nothing from some others; words ask no room above them for more than a type. */
const below = (folder, others, allowTypeImports = false) => ({
  files: [`src/${folder}/**`],
  rules: {
    '@typescript-eslint/no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            regex: `^(\\.\\./)+(lib/)?(${others.join('|')})/`,
            allowTypeImports,
            message: 'That stands above, or is another page: lib < draw < string < pages.',
          },
        ],
      },
    ],
  },
});

const styled = {
  selector: 'JSXAttribute[name.name="style"]',
  message: 'A style has a class; what hangs on data is an attribute of a drawing.',
};

const computed = {
  selector:
    'BinaryExpression[operator=/^[-+*/%]$/] > MemberExpression[property.name=/^(chance|step|fire|padShare|spooked|low|mid|high|per100|share)$/]',
  message: 'A chance is worked out in the core; lib/words says it.',
};

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
  below('lib', ['draw', 'string', ...pages]),
  below('lib/words', ['draw', 'string', ...pages, 'kept', 'ask', 'fields'], true),
  below('draw', ['string', ...pages]),
  below('string', pages),
  ...pages.map((page) =>
    below(
      page,
      pages.filter((other) => other !== page),
    ),
  ),
  {
    // What a set is made of is for its drawing and the bench to know; other pages ask lib/words/parts.
    ignores: ['src/bench/**', 'src/draw/**', 'src/lib/words/{parts,patterns}.ts', 'src/tested.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...[
          'MemberExpression > MemberExpression.object[property.name="layout"]',
          'VariableDeclarator[init.property.name="layout"] > ObjectPattern',
        ].map((selector) => ({ selector, message: 'Ask lib/words/parts what the layout holds.' })),
        styled,
        computed,
      ],
    },
  },
  {
    files: ['src/bench/**', 'src/lib/words/{parts,patterns}.ts'],
    rules: { 'no-restricted-syntax': ['error', styled, computed] },
  },
  { files: ['src/draw/**'], rules: { 'no-restricted-syntax': ['error', styled] } },
  prettier,
);
