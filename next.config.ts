import type { NextConfig } from 'next';

const silenced = ['import', 'global-builtin', 'color-functions', 'if-function'];

const config: NextConfig = {
  poweredByHeader: false,
  // A release is built in a folder of its own, wherever that lies.
  turbopack: { root: process.cwd() },
  // The same sources have the same name, on whichever machine they are built.
  generateBuildId: () => process.env.HEATHLAND_BUILD ?? null,
  reactStrictMode: true,
  // `./heathland test types` checks them, of tests and commands as well, which no release needs.
  typescript: { ignoreBuildErrors: true },
  // These carry native parts or open sockets; bundling them would copy or break them.
  serverExternalPackages: [
    'knex',
    'pg',
    'sharp',
    'harfbuzzjs',
    '@node-rs/argon2',
    'pino',
    'prom-client',
    'graphile-worker',
    'jsdom',
    'dompurify',
  ],
  sassOptions: { quietDeps: true, silenceDeprecations: silenced },
  // A printed code holds upper-case letters, since those make a smaller code: /H/CODE is /h/CODE.
  rewrites: async () => ({
    beforeFiles: [
      { source: '/H/:path*', destination: '/h/:path*' },
      { source: '/C/:path*', destination: '/c/:path*' },
    ],
  }),
};

export default config;
