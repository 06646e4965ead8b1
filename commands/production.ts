import type { Commands } from './run';

/** The commands of whoever runs an installation: those of a release. */
export const PRODUCTION: Commands = {
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
  mail: {
    about: 'mails that the tray kept: mail, mail --json; the tray: mail tray [PORT]; the way out: mail try E-MAIL',
    run: () => import('./mail'),
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
  code: {
    about: 'QR codes for scripts: make --text T --out FILE, prove FILE',
    run: () => import('./code'),
  },
  roster: {
    about:
      'a sheet of staff for scripts: run FILE.xlsx --pattern CARD-ADDRESS (--pictures DIR, --complete, --publish, --as MAIL, --json)',
    run: () => import('./roster'),
  },
  wild: {
    about: 'where a value is out, in print, tags, codes, mails, saved contacts: wild --value TEXT (--json)',
    run: () => import('./wild'),
  },
  export: {
    about: 'what a card gives out, as files with their proof: export CARD-ADDRESS --channel CHANNEL --out DIR',
    run: () => import('./export'),
  },
  prove: {
    about: 'hold every hand-out that is out against its ticks, from the served bytes: prove [CARD-ADDRESS …] (--json)',
    run: () => import('./prove'),
  },
  ready: {
    about: 'wait until the process on PORT answers, after it was started',
    run: () => import('./ready'),
  },
  serve: { about: 'production; settings come from the environment', run: () => import('./serve') },
};
