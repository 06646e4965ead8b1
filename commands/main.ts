import { PRODUCTION } from './production';
import { runCommand } from './run';

runCommand({
  demo: {
    about: 'start with made-up data on this machine (--fresh starts over; PORT=… another port)',
    run: () => import('./demo'),
  },
  dev: { about: 'as demo; screens reload while you edit, the listener wants a new start', run: () => import('./dev') },
  test: {
    about: 'lint, types, import rules, tests in Node.js and in a browser (all: what takes long or kills as well)',
    run: () => import('./test'),
  },
  bench: {
    about: 'measure the figures that must be reached: all, or parts: pages, views, attack … (--json)',
    run: () => import('./bench/bench'),
  },
  mutants: {
    about: 'mutation testing of proofs, first ticks and response: all, or files of them',
    run: () => import('./mutants'),
  },
  build: {
    about: 'a release in a folder of its own, which needs Node.js and no more: build [FOLDER]',
    run: () => import('./build'),
  },
  ...PRODUCTION,
});
