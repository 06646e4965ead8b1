import { rmSync, writeSync } from 'node:fs';
import { cpus } from 'node:os';
import path from 'node:path';
import { migrationSource } from '../../migrations';
import { migrate } from '../../src/server/db/schema/migrate';
import { startApplication } from '../application';
import { openCluster } from '../cluster/cluster';
import { dropDatabase, ensureDatabase } from '../cluster/databases';
import { freePort } from '../cluster/ports';
import { HOME, ROOT, takeLock } from '../place';
import { builtRelease } from '../release/make';
import { say, Stop } from '../stop';
import { measureBlocks } from './blocks';
import { measureCodes } from './codes';
import { measureContacts } from './contacts';
import { measureAttack } from './attack';
import { lineOf, reached, type Figure } from './figure';
import { measureImport } from './import';
import { measureKills } from './kills';
import { measureLook } from './look';
import { measurePaper } from './paper';
import { measureTogether } from './together';
import { measureHandOuts, measureMailKills, measureSignatures } from './mail';
import { measurePages } from './pages';
import { measureReplies } from './replies';
import { measureRoster } from './roster';
import { measureScale } from './scale';
import { measureSurvival } from './survival';
import { measureTable } from './table';
import { measureTwo } from './two';
import { measureViews } from './views';
import { measureWalk } from './walk/walk';
import { measureWild } from './wild';

const DATABASE = 'heathland_bench';
const SECRET = 'a secret of the bench, which is no secret';

const PARTS = [
  'pages',
  'import',
  'table',
  'views',
  'attack',
  'two',
  'codes',
  'mail',
  'paper',
  'together',
  'blocks',
  'look',
  'kills',
  'survival',
  'scale',
  'wild',
  'roster',
  'replies',
  'walk',
  'contacts',
];

/** Measures every figure that must be reached, on the demo data in a database of its own; exit code 1 on a miss. Words choose parts. */
export async function run(args: string[]): Promise<number> {
  const json = args.includes('--json');
  const words = args.filter((word) => word !== '--json');
  const unknown = words.find((word) => !PARTS.includes(word));
  if (unknown) throw new Stop(`“${unknown}” is not known here. There are: ${PARTS.join(', ')}, and --json.`);
  const wanted = (part: string) => words.length === 0 || words.includes(part);
  // With --json standard output holds the figures alone; what is being done is said on standard error.
  if (json) process.stdout.write = process.stderr.write.bind(process.stderr) as typeof process.stdout.write;
  await builtRelease();
  const release = takeLock('test', './heathland bench');
  const cluster = await openCluster(ROOT, 'bench-cluster');
  const files = path.join(HOME, 'bench-files');
  try {
    rmSync(files, { recursive: true, force: true });
    await dropDatabase(cluster.url('postgres'), DATABASE);
    await ensureDatabase(cluster.url('postgres'), DATABASE);
    const port = await freePort();
    const address = `http://127.0.0.1:${port}`;
    const environment = {
      DATABASE_URL: cluster.url(DATABASE),
      SESSION_SECRET: SECRET,
      BASE_URL: address,
      PUBLIC_URL: address,
      PORT: String(port),
      FILES_DIR: files,
      LOG_LEVEL: 'warn',
    };
    Object.assign(process.env, environment);
    await migrate(environment.DATABASE_URL, SECRET, migrationSource);
    const { DEMO_SIGN_INS, loadDemo } = await import('../../demo/load');
    await loadDemo((line) => process.stdout.write(`${line}\n`));
    const application = await startApplication(environment, { dev: false });
    const figures: Figure[] = [];
    // Told as they come, so that nothing measured is lost with what comes after.
    const take = async (part: string, measure: () => Promise<Figure[]>) => {
      if (!wanted(part)) return;
      // A part that fails does not end the others, and is no figure that was reached.
      const made = await measure().catch((error: unknown): Figure[] => {
        say(`  ${part} failed: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
        return [
          {
            name: `${part}, measured`,
            value: NaN,
            unit: '',
            must: { atLeast: 1 },
            beside: 'it failed; the reason stands above',
          },
        ];
      });
      figures.push(...made);
      if (!json) say(made.map(lineOf).join('\n'));
    };
    const [maud, odile] = [DEMO_SIGN_INS[0]!, DEMO_SIGN_INS.at(-1)!];
    const databaseUrl = environment.DATABASE_URL;
    try {
      await take('pages', () => measurePages(address, databaseUrl));
      await take('import', () => measureImport(address, maud));
      await take('table', () => measureTable(address, databaseUrl, odile));
      await take('views', () => measureViews(address, databaseUrl));
      await take('codes', () => measureCodes(address, odile));
      await take('mail', () => measureSignatures(address, maud));
      await take('mail', () => measureHandOuts(environment));
      await take('paper', () => measurePaper(address, maud));
      await take('attack', () => measureAttack(address, databaseUrl));
      // Last of these: it makes five thousand cards.
      await take('look', () => measureLook(address, databaseUrl, odile, maud));
    } finally {
      await application.stop();
    }
    await take('together', () => measureTogether(environment));
    await take('two', () => measureTwo(environment, odile));
    await take('blocks', () => measureBlocks(environment, odile));
    await take('mail', () => measureMailKills(environment));
    await take('kills', () => measureKills(environment, cluster));
    await take('survival', () => measureSurvival(environment, cluster, odile));
    await take('scale', () => measureScale(environment));
    await take('wild', () => measureWild(environment));
    await take('roster', () => measureRoster(environment));
    await take('replies', () => measureReplies(environment, cluster));
    await take('walk', measureWalk);
    // Last, since it leaves this process with a heap of fifty thousand contacts.
    await take('contacts', measureContacts);
    const machine = `${cpus().length} processors, ${cpus()[0]?.model ?? 'unknown'}, Node.js ${process.version}`;
    const report = json
      ? JSON.stringify(
          { machine, figures: figures.map((figure) => ({ ...figure, reached: reached(figure) })) },
          null,
          2,
        )
      : `\n${machine}\n\n${figures.map(lineOf).join('\n')}`;
    writeSync(1, `${report}\n`);
    return figures.every(reached) ? 0 : 1;
  } finally {
    await cluster.stop();
    release();
  }
}
