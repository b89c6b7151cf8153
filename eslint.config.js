import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['resources/ts/api/document.ts'] },
  ...tseslint.configs.strict,
  { files: ['resources/ts/**/*.{ts,tsx}'], plugins: { 'react-hooks': hooks }, rules: { ...hooks.configs.recommended.rules, 'react-hooks/immutability': 'off', 'react-hooks/refs': 'off', 'react-hooks/set-state-in-effect': 'off' } },
);
