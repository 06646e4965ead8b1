// Lints the snippets given as JSON on standard input, each as if it stood at its path, and prints the rules that spoke up.
import { ESLint } from 'eslint';

let input = '';
for await (const chunk of process.stdin) input += chunk;
// A snippet that is no file belongs to no program of the compiler's.
const eslint = new ESLint({
  overrideConfig: {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: false } },
    rules: { '@typescript-eslint/no-floating-promises': 'off' },
  },
});
const answers = [];
for (const { path, code } of JSON.parse(input)) {
  const [result] = await eslint.lintText(code, { filePath: path });
  answers.push(result ? result.messages.map((message) => message.ruleId) : []);
}
process.stdout.write(JSON.stringify(answers));
