import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

// Rules that take as long as all others look for what seldom comes: with bin/test --long only.
const long = Boolean(process.env['YARD_BREAK_LONG']);
const { 'react-hooks/rules-of-hooks': order, 'react-hooks/exhaustive-deps': deps } =
  hooks.configs.recommended.rules;

export default tseslint.config(
  { ignores: ['resources/ts/api/document.ts'] },
  ...tseslint.configs.strictTypeChecked,
  a11y.flatConfigs.strict,
  {
    files: ['{resources/ts,tests/Components}/**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    plugins: { 'react-hooks': hooks },
    rules: {
      ...(long
        ? hooks.configs.recommended.rules
        : { 'react-hooks/rules-of-hooks': order, 'react-hooks/exhaustive-deps': deps }),
      '@typescript-eslint/no-deprecated': long ? 'error' : 'off',
      '@typescript-eslint/no-unsafe-class-instance-assignment': long ? 'error' : 'off',
      '@typescript-eslint/no-unsafe-enum-assignment': long ? 'error' : 'off',
      // The picture keeps buffers that are written in place at each frame.
      'react-hooks/immutability': 'off',
      'react-hooks/refs': 'off',
      'react-hooks/set-state-in-effect': 'off',
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/restrict-template-expressions': [
        'error',
        { allowNumber: true, allowBoolean: true },
      ],
      // Generated types are those of a complete document; a key has a frame or a cue, never both.
      '@typescript-eslint/no-unnecessary-condition': 'off',
      // What a key has just opened takes the focus.
      'jsx-a11y/no-autofocus': 'off',
    },
  },
);
