import type { NextConfig } from 'next';

const config: NextConfig = {
  distDir: process.env.NEXT_DIST ?? '.next',
  reactStrictMode: true,
  poweredByHeader: false,
  // Types are checked by ./test, over tests and tools as well; a build does not repeat it.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: [
    'pdfkit',
    'pdfjs-dist',
    'sharp',
    'pg',
    'better-auth',
    'pino',
    'prom-client',
    'piscina',
    'rate-limiter-flexible',
    'p-limit',
  ],
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};

export default config;
