// Lints the snippets given as JSON on standard input, each as if it stood at its path, and prints the rules that spoke up.
import { ESLint } from 'eslint';

let input = '';
for await (const chunk of process.stdin) input += chunk;
const eslint = new ESLint();
const answers = [];
for (const { path, code } of JSON.parse(input)) {
  const [result] = await eslint.lintText(code, { filePath: path });
  answers.push(result ? result.messages.map((message) => message.ruleId) : []);
}
process.stdout.write(JSON.stringify(answers));
