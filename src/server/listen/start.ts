import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import Module, { createRequire } from 'node:module';
import path from 'node:path';
import { Script } from 'node:vm';

/*
 * Starts the listener's code, which lies beside this file, in the form that V8 made of it when it was built: compiling it takes longer than
 * all else until the process listens. With `--keep-code` that form is written down, once what a start calls has been called.
 */
const KEEP_AFTER_MS = 1_500;

const file = path.join(__dirname, 'listener-code.cjs');
const kept = `${file}.v8`;
const script = new Script(Module.wrap(readFileSync(file, 'utf8')), {
  filename: file,
  // Of another version of Node.js it is passed over.
  cachedData: existsSync(kept) ? readFileSync(kept) : undefined,
});
const code = { exports: {} };
script.runInThisContext()(code.exports, createRequire(file), code, file, __dirname);
if (process.argv.includes('--keep-code'))
  setTimeout(() => {
    writeFileSync(kept, script.createCachedData());
    process.exit(0);
  }, KEEP_AFTER_MS);
