export type Commands = Record<
  string,
  { about: string; run: () => Promise<{ run: (args: string[]) => Promise<number> }> }
>;

async function find(commands: Commands, [name = 'help', ...args]: string[]): Promise<number> {
  const command = Object.hasOwn(commands, name) ? commands[name] : undefined;
  if (!command) {
    const known = name === 'help' || name === '--help' || name === '-h';
    if (!known) process.stderr.write(`There is no command “${name}”.\n`);
    for (const [word, { about }] of Object.entries(commands))
      process.stdout.write(`./heathland ${word.padEnd(12)} ${about}\n`);
    process.stdout.write('./heathland help         this list\n');
    return known ? 0 : 1;
  }
  const { run } = await command.run();
  return run(args);
}

/** Runs the command that was asked for, and ends this process with its code. */
export function runCommand(commands: Commands): void {
  find(commands, process.argv.slice(2)).then(
    (code) => process.exit(code),
    (error: unknown) => {
      const told = error instanceof Error && (error.name === 'Stop' || error.name === 'CannotStart');
      process.stderr.write(told ? `${error.message}\n` : `${error instanceof Error ? error.stack : String(error)}\n`);
      process.exit(1);
    },
  );
}
