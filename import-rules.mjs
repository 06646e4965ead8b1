import boundaries from 'eslint-plugin-boundaries';
import tseslint from 'typescript-eslint';

const REACT = [
  'react',
  'react/jsx-runtime',
  'react-dom',
  'react-bootstrap',
  'next',
  'react-hook-form',
  'recharts',
  '@dnd-kit/core',
  '@dnd-kit/sortable',
  '@dnd-kit/utilities',
  '@tanstack/react-virtual',
  'morphdom',
];
const SERVER = ['clock', 'compute', 'files', 'fonts', 'log', 'metrics'];

/** folder -> [folders it may import, packages it may import] — the architecture, in one table. */
const LAYERS = {
  core: [
    ['core'],
    [
      ...['zod', 'libphonenumber-js', 'ical.js', 'isbot', 'bidi-js', 'harfbuzzjs', 'htmlparser2'],
      ...['zxing-wasm', 'qr', '@undecaf/zbar-wasm', '@resvg/resvg-wasm'],
    ],
  ],
  env: [['core', 'env'], ['zod']],
  db: [
    ['core', 'env', 'log', 'db'],
    ['knex', 'pg', 'graphile-worker'],
  ],
  clock: [['core', 'clock'], []],
  log: [['core', 'env', 'log', 'metrics'], ['pino']],
  metrics: [['metrics'], ['prom-client']],
  changes: [['env', 'log', 'changes'], ['pg']],
  fonts: [['core', 'fonts'], ['harfbuzzjs']],
  files: [['core', 'env', 'files'], ['aws4fetch']],
  mail: [
    ['core', 'env', 'mail'],
    ['nodemailer', 'smtp-server', 'postal-mime'],
  ],
  compute: [
    ['core', 'env', 'fonts', 'log', 'metrics', 'compute'],
    [
      'sharp',
      'subset-font',
      'dompurify',
      'jsdom',
      'mediabunny',
      '@resvg/resvg-wasm',
      'zxing-wasm',
      '@cantoo/pdf-lib',
      '@hyzyla/pdfium',
      'node-forge',
      'fflate',
      'yazl',
      'yauzl',
      'csv-parse',
      'read-excel-file',
      'write-excel-file',
      '@zxcvbn-ts/core',
      '@zxcvbn-ts/language-common',
      '@zxcvbn-ts/language-de',
      '@zxcvbn-ts/language-en',
    ],
  ],
  services: [
    ['core', 'env', 'db', 'intake', 'mail', 'services', ...SERVER],
    ['zod', 'sharp', 'yazl', 'tar-stream', '@node-rs/argon2', 'otpauth', 'write-excel-file'],
  ],
  intake: [['core', 'env', 'db', 'intake', ...SERVER], []],
  recipient: [['core', 'env', 'db', 'intake', 'services', 'recipient', ...SERVER], ['lru-cache']],
  workers: [
    ['core', 'env', 'files', 'services', 'workers'],
    ['zxing-wasm', '@resvg/resvg-wasm', '@undecaf/zbar-wasm', 'fflate'],
  ],
  listen: [
    ['core', 'env', 'db', 'mail', 'services', 'recipient', 'workers', 'listen', 'migrations', ...SERVER],
    ['next', 'pg', 'graphile-worker'],
  ],
  ui: [['core', 'ui'], REACT],
  app: [
    ['core', 'env', 'services', 'recipient', 'ui', 'app', 'changes', 'clock', 'log'],
    ['react', 'react/jsx-runtime', 'next', 'zod'],
  ],
  migrations: [['migrations'], ['knex']],
  demo: [['core', 'env', 'intake', 'services', 'clock', 'demo'], ['sharp']],
  commands: [
    [
      'core',
      'env',
      'clock',
      'db',
      'compute',
      'files',
      'mail',
      'services',
      'listen',
      'recipient',
      'migrations',
      'demo',
      'commands',
      'fixtures',
    ],
    ['pg', 'esbuild', '@playwright/test', 'sharp', 'knex', 'ical.js', 'subset-font'],
  ],
  e2e: [
    ['e2e', 'fixtures', 'commands', 'core'],
    ['@playwright/test', 'axe-core', 'jsqr', 'sharp', 'pg'],
  ],
  integration: [
    [
      'core',
      'env',
      'db',
      'intake',
      'services',
      'recipient',
      'workers',
      'listen',
      'migrations',
      'commands',
      'integration',
      'fixtures',
      'changes',
      'mail',
      ...SERVER,
    ],
    [
      'pg',
      'knex',
      'sharp',
      'exifr',
      '@cantoo/pdf-lib',
      's3rver',
      'jsdom',
      'ical.js',
      'big-list-of-naughty-strings',
      'webvtt-parser',
      'html-validate',
      'microformats-parser',
      'jsonld',
      'mediabunny',
      ...['mailparser', 'smtp-server', 'read-excel-file', 'write-excel-file'],
    ],
  ],
  rules: [['commands'], ['eslint', 'typescript-eslint']],
  fixtures: [
    ['core', 'fixtures'],
    ['@taptrack/ndef', 'fast-check'],
  ],
};

/** Each subject of the core, and the subjects that it may import: none before those that it stands on, so that there is no circle. */
const SUBJECTS = {
  limits: [],
  language: [],
  findings: ['language'],
  errors: ['findings'],
  response: [],
  ndef: ['errors'],
  qr: [],
  access: ['errors'],
  address: ['errors'],
  jobs: ['errors'],
  markup: [],
  letter: ['markup'],
  messages: ['language'],
  record: ['errors', 'language', 'limits', 'messages'],
  look: ['limits', 'record'],
  card: ['errors', 'language', 'limits', 'look', 'record'],
  company: ['language', 'limits', 'record'],
  deletion: ['card'],
  vcard: ['card', 'language', 'limits', 'record'],
  'hand-over': [],
  sheet: [],
  imports: ['record', 'vcard'],
  roster: ['card', 'errors', 'limits', 'record'],
  change: ['card', 'errors', 'limits', 'look', 'record'],
  pack: ['errors', 'limits', 'sheet', 'vcard'],
  code: ['card', 'errors', 'limits', 'ndef', 'qr', 'record', 'vcard'],
  house: ['access', 'card', 'errors', 'limits', 'look', 'qr', 'record', 'signature'],
  replies: ['errors', 'limits', 'record'],
  page: ['card', 'language', 'limits', 'look', 'markup', 'messages', 'record', 'replies'],
  profile: ['card', 'errors', 'language', 'record'],
  signature: ['card', 'language', 'limits', 'look', 'markup', 'page', 'record'],
  face: ['card', 'language', 'look', 'markup', 'page', 'qr', 'record'],
  print: ['card', 'face', 'language', 'limits', 'look', 'messages', 'qr', 'record'],
  backdrop: ['card', 'face', 'language', 'look', 'qr', 'record'],
  pass: ['card', 'language', 'look', 'page', 'record'],
  words: [
    'signature',
    ...[
      'access',
      'backdrop',
      'card',
      'code',
      'face',
      'imports',
      'jobs',
      'language',
      'look',
      'ndef',
      'print',
      'proof',
      'qr',
      'record',
    ],
    ...['replies', 'response', 'roster', 'vcard'],
  ],
  revisions: ['card', 'language', 'look', 'record', 'words'],
  wild: ['card', 'code', 'house', 'record'],
  shown: [
    ...['access', 'card', 'code', 'errors', 'findings', 'language', 'look', 'proof', 'qr', 'record', 'response'],
    ...['backdrop', 'ndef', 'pass', 'print', 'profile', 'revisions', 'signature'],
  ],
  proof: [
    ...[
      'backdrop',
      'card',
      'findings',
      'house',
      'language',
      'look',
      'messages',
      'page',
      'pass',
      'print',
      'qr',
      'record',
      'signature',
      'vcard',
    ],
    'face',
  ],
  specimen: [
    'code',
    'signature',
    'pass',
    'card',
    'errors',
    'house',
    'language',
    'look',
    'messages',
    'ndef',
    'page',
    'proof',
    'qr',
    'record',
    'vcard',
    'face',
  ],
};

/** Further doors of subjects: schemas, and what is so heavy that it is loaded where it is needed. */
const FURTHER_DOORS = [
  'language/schema',
  'messages/replies',
  'roster/schema',
  'look/schema',
  'page/(captions|reply-page)',
  'record/line-type',
  'specimen/(carried|prove|prove-file|prove-code|prove-paper|prove-signature|tag-held)',
  'proof/(backdrop|code|pass|print|signature|scan|scan/shape|tag|contact-file|page|read-page|parse-page)',
  '(code|qr)/schema',
  'wild/value',
];
const PAST_A_DOOR = {
  regex: `^@/core/(?!(${FURTHER_DOORS.join('|')})$)[a-z]+/`,
  message: 'A subject of the core is imported by its door.',
};
const subjectRules = [
  {
    files: ['{src,demo,commands,tests}/**/*.{ts,tsx}'],
    rules: { 'no-restricted-imports': ['error', { patterns: [PAST_A_DOOR] }] },
  },
  ...Object.entries(SUBJECTS).map(([subject, others]) => ({
    files: [`src/core/${subject}/**/*.ts`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            PAST_A_DOOR,
            {
              regex: `^@/core/(?!(${['', ...others].join('|')})(/|$))|^(\\.\\./)+(${Object.keys(SUBJECTS).join('|')})(/|$)`,
              message: `The subject ${subject} stands on others (import-rules.mjs).`,
            },
          ],
        },
      ],
    },
  })),
];
const PATTERNS = {
  core: 'src/core',
  env: 'src/server/env',
  db: 'src/server/db',
  clock: 'src/server/clock',
  files: 'src/server/files',
  mail: 'src/server/mail',
  compute: 'src/server/compute',
  fonts: 'src/server/fonts',
  log: 'src/server/log',
  metrics: 'src/server/metrics',
  changes: 'src/server/changes',
  services: 'src/server/services',
  intake: 'src/server/intake',
  listen: 'src/server/listen',
  workers: 'src/workers',
  recipient: 'src/recipient',
  ui: 'src/ui',
  app: 'src/app',
  migrations: 'migrations',
  demo: 'demo',
  commands: 'commands',
  e2e: 'tests/e2e',
  integration: 'tests/integration',
  rules: 'tests/rules',
  fixtures: 'tests/fixtures',
};
const NODE_ALLOWED = [
  'fonts',
  'env',
  'db',
  'files',
  'mail',
  'compute',
  'services',
  'intake',
  'recipient',
  'listen',
  'demo',
  'commands',
  'integration',
  'e2e',
  'rules',
  'fixtures',
];
const anyOf = (list) => ({ anyOf: list });

/**
 * A project of its own that Next.js builds: the denominator of a figure. And the one file that Next.js wants at this place: it hands on to
 * src/app/request.
 */
const NOT_OURS = ['commands/bench/bare-next/**', 'src/proxy.ts'];

export const READS_ENV = {
  selector: "MemberExpression[object.name='process'][property.name='env']",
  message: 'Read settings from src/server/env.',
};

/** Libraries that tests hold our outputs against; nothing else may use them. */
const REFERENCES = [
  '@taptrack/ndef',
  'fast-check',
  'axe-core',
  'jsqr',
  'zxing-wasm',
  'qr',
  'qrcode',
  'sharp',
  'ical.js',
  'eslint',
  'caniemail',
  'css-tree',
  'jsdom',
  'typescript',
];

const fromTests = (to) => ({ from: { file: { categories: 'test' } }, allow: { to } });

/**
 * What the files of a layer may import. Each layer has its policies to itself: the linter goes through every policy for every import, and those of all
 * layers together took it two minutes.
 */
const imports = (policies) => ({
  'boundaries/dependencies': [
    'error',
    {
      default: 'disallow',
      checkAllOrigins: true,
      checkUnknownLocals: true,
      checkInternals: true,
      policies: [
        ...policies,
        fromTests({ module: { origin: 'core' } }),
        fromTests({ element: { types: anyOf(['fixtures']) } }),
        fromTests({ module: { origin: 'external', source: REFERENCES } }),
        { disallow: { to: { file: { categories: 'test' } } } },
      ],
    },
  ],
});
const layerRules = Object.entries(LAYERS).map(([type, [layers, packages]]) => ({
  files: [`${PATTERNS[type]}/**/*.{ts,tsx}`],
  ignores: NOT_OURS,
  rules: imports([
    { allow: { to: { element: { types: anyOf(layers) } } } },
    ...(packages.length > 0 ? [{ allow: { to: { module: { origin: 'external', source: packages } } } }] : []),
    ...(NODE_ALLOWED.includes(type) ? [{ allow: { to: { module: { origin: 'core' } } } }] : []),
  ]),
}));

export default [
  ...subjectRules,
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parser: tseslint.parser, parserOptions: { ecmaFeatures: { jsx: true } } },
  },
  {
    files: ['{src,migrations,demo,commands,tests}/**/*.{ts,tsx}'],
    ignores: NOT_OURS,
    plugins: { boundaries },
    settings: {
      'import/resolver': { typescript: { project: './tsconfig.json' } },
      'boundaries/elements': Object.entries(PATTERNS).map(([type, pattern]) => ({ type, pattern })),
      'boundaries/files': [{ category: 'test', pattern: '**/*.test.ts' }],
    },
    rules: { 'boundaries/no-unknown-files': 'error', ...imports([]) },
  },
  ...layerRules,
  {
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/server/env/**', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': ['error', READS_ENV],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'process',
        'fetch',
        'crypto',
        'window',
        'document',
        'globalThis',
        'Buffer',
        'console',
        'performance',
        'setTimeout',
        'setInterval',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Pass the instant in.' },
        { object: 'Math', property: 'random', message: 'Pass the random source in.' },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'Pass the instant in.' },
        { selector: 'ImportExpression', message: 'No dynamic import in core.' },
      ],
    },
  },
  {
    // A subject that the table does not know.
    files: ['src/core/*/**/*.ts'],
    ignores: [...Object.keys(SUBJECTS).map((subject) => `src/core/${subject}/**`), '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: 'Program', message: 'The table of subjects in import-rules.mjs does not know this one.' },
      ],
    },
  },
];
