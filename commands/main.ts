const COMMANDS: Record<string, { about: string; run: () => Promise<{ run: (args: string[]) => Promise<number> }> }> = {
  demo: {
    about: 'start with made-up data on this machine (--fresh starts over; PORT=… another port)',
    run: () => import('./demo'),
  },
  dev: { about: 'as demo; screens reload while you edit, the listener wants a new start', run: () => import('./dev') },
  test: { about: 'lint, types, import rules, tests in Node.js and in a browser', run: () => import('./test') },
  bench: {
    about: 'measure the figures that must be reached: all, or parts: pages, views, attack … (--json)',
    run: () => import('./bench/bench'),
  },
  mutants: {
    about: 'mutation testing of proofs, first ticks and response: all, or files of them',
    run: () => import('./mutants'),
  },
  backup: {
    about: 'database and files into one archive, while it runs: backup FILE',
    run: () => import('./backup'),
  },
  restore: {
    about: 'an archive back, checked first: restore FILE (--replace drops what is there, --drill only tries)',
    run: () => import('./restore'),
  },
  organisation: {
    about:
      'organisations: organisation list, organisation delete ID, bring-back ID; one to take along: export ID FILE, take-in FILE',
    run: () => import('./organisation'),
  },
  check: {
    about: 'try what an installation stands on: settings, database and rights, store, clock, addresses',
    run: () => import('./check'),
  },
  migrate: { about: 'bring the database up to date, and start nothing', run: () => import('./migrate') },
  owner: {
    about: 'the first owner of an organisation: owner add E-MAIL --name NAME, owner reset E-MAIL',
    run: () => import('./owner'),
  },
  user: { about: 'whoever may sign in: user list', run: () => import('./user') },
  prefix: {
    about: 'beginnings of short addresses: prefix, prefix allow PREFIX ORGANISATION, prefix refuse ORGANISATION',
    run: () => import('./prefix'),
  },
  account: {
    about:
      'what only the operator may do to an account: account reset-second-factor E-MAIL, account new-password E-MAIL',
    run: () => import('./account'),
  },
  secrets: {
    about: 'session secrets that the database knows: secrets, secrets forget FINGERPRINT',
    run: () => import('./secrets'),
  },
  sql: {
    about: 'one statement on the installation, its rows, rolled back: sql [--application] "STATEMENT"',
    run: () => import('./sql'),
  },
  contacts: {
    about: 'contact files for scripts: read FILE…, write --version 3.0 FILE, prove CARD-ADDRESS',
    run: () => import('./contacts'),
  },
  serve: { about: 'production; settings come from the environment', run: () => import('./serve') },
};

async function main([name = 'help', ...args]: string[]): Promise<number> {
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) {
    const known = name === 'help' || name === '--help' || name === '-h';
    if (!known) process.stderr.write(`There is no command “${name}”.\n`);
    for (const [word, { about }] of Object.entries(COMMANDS))
      process.stdout.write(`./heathland ${word.padEnd(12)} ${about}\n`);
    process.stdout.write('./heathland help         this list\n');
    return known ? 0 : 1;
  }
  const { run } = await command.run();
  return run(args);
}

main(process.argv.slice(2)).then(
  (code) => process.exit(code),
  (error: unknown) => {
    const told = error instanceof Error && (error.name === 'Stop' || error.name === 'CannotStart');
    process.stderr.write(told ? `${error.message}\n` : `${error instanceof Error ? error.stack : String(error)}\n`);
    process.exit(1);
  },
);
