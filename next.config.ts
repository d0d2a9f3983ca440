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
  headers: async () => [
    {
      source: '/:path*',
      headers: [
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'same-origin' },
        { key: 'X-Frame-Options', value: 'SAMEORIGIN' },
        { key: 'Permissions-Policy', value: 'camera=(self), screen-wake-lock=(self), geolocation=()' },
      ],
    },
  ],
};

export default config;
