import astro from 'eslint-plugin-astro';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const noImports = (...group) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: [
        {
          group,
          message:
            'The layers are in docs/architecture.md: core ← office ← server ← pages; core and office ← islands ← pages.',
        },
      ],
    },
  ],
});

export default tseslint.config(
  { ignores: ['dist', '.astro', '.data', 'test-results', 'playwright-report', 'src/env.d.ts'] },
  ...tseslint.configs.recommendedTypeChecked.map((c) => ({ ...c, files: ['**/*.{ts,tsx}'] })),
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true, allowShortCircuit: true }],
      // What throws is named so: must…, assert…, get… (an entry that has to be there), refuse….
      'no-restricted-syntax': [
        'error',
        ...['FunctionDeclaration', 'VariableDeclarator'].map((what) => ({
          selector: `${what}[id.name=/^(is|has|may|can|find|list|look)[A-Z]/] ThrowStatement`,
          message: 'By its name this only asks: give back what is so, or call it must….',
        })),
      ],
    },
  },
  ...astro.configs.recommended,
  {
    files: ['**/*.tsx', 'src/islands/**/*.ts'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['src/core/**/*.ts'],
    rules: noImports('@/*', 'node:*', 'react', 'react-dom', 'astro*', 'drizzle-orm*', 'pg'),
  },
  { files: ['src/office/**/*.ts'], rules: noImports('@/server/*', '@/islands/*', '@/layouts/*', '@/demo/*') },
  { files: ['src/server/**/*.ts'], rules: noImports('@/islands/*', '@/layouts/*', '@/pages/*', '@/demo/*') },
  { files: ['src/islands/**/*.{ts,tsx}'], rules: noImports('@/server/*', '@/layouts/*', '@/pages/*', '@/demo/*') },
  {
    files: ['src/{pages,layouts}/**/*.{ts,astro}'],
    ignores: ['src/pages/sign-in.astro'],
    rules: noImports('@/demo/*'),
  },
);
