import type { KnipConfig } from 'knip';

const config: KnipConfig = {
  entry: [
    'src/app/**/{page,layout,route,error,not-found,global-error,loading}.{ts,tsx}',
    'src/proxy.ts',
    'src/workers/{prove,prove-code,kept-copy,reply-form,hand-over-page,hand-over-worker}.ts',
    'src/server/listen/{main,start,studio-process,jobs-process}.ts',
    'src/server/compute/program.ts',
    'src/core/messages/recipient/*.ts',
    'commands/{main,docs,fonts,screenshots,release/main}.ts',
    'commands/bench/**/*.{ts,mjs}',
    'tests/**/*.{ts,mjs}',
    'circles.config.mjs',
  ],
  project: ['src/**/*.{ts,tsx}', 'commands/**/*.ts', 'demo/**/*.ts'],
  ignoreExportsUsedInFile: true,
  // Read as files, by the theme.
  ignoreDependencies: ['bootstrap', 'dependency-cruiser', 'eslint-plugin-boundaries'],
  ignoreBinaries: [
    'wrk',
    'openssl',
    'systemd-analyze',
    'setpriv',
    'mount',
    'umount',
    'unshare',
    'nginx',
    'pdftoppm',
    'qpdf',
    'pdfinfo',
    'zbarimg',
    'mutool',
  ],
  exclude: ['types', 'enumMembers', 'duplicates'],
  ignore: ['commands/bench/bare-next/**'],
};
export default config;
