import { foreseen } from './sentence';

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
      // Hosts are looked for and connected to for the database alone.
      const { syscall = '', path } = error as { syscall?: string; path?: string };
      const where = /^(connect|getaddrinfo)$/.test(syscall)
        ? 'The database of DATABASE_URL: '
        : path
          ? `${path}: `
          : '';
      const told = foreseen(error, 'database');
      process.stderr.write(`${told ? where + told : error instanceof Error ? error.stack : String(error)}\n`);
      process.exit(1);
    },
  );
}
