import { developing, settings, transportHeaders } from '@/server/env';

/**
 * The security headers of the studio's answers. The specimen is a frame of the very page, whose style sheets are let in by the
 * document's nonce. Attributes of style are open: drag and chart libraries set positions there.
 */
export function studioHeaders(nonce: string): Record<string, string> {
  const dev = developing();
  const policy = [
    "default-src 'none'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ''}`,
    `style-src-elem 'self' ${dev ? "'unsafe-inline'" : `'nonce-${nonce}'`}`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${dev ? ' ws:' : ''}`,
    "frame-src 'self' blob:",
    // Proofs are made by a web worker of our own.
    "media-src 'self'",
    "worker-src 'self' blob:",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
    "object-src 'none'",
  ];
  return {
    'Content-Security-Policy': policy.join('; '),
    'X-Content-Type-Options': 'nosniff',
    'X-Frame-Options': 'DENY',
    'Referrer-Policy': 'same-origin',
    'Cross-Origin-Opener-Policy': 'same-origin',
    ...transportHeaders(settings().BASE_URL),
  };
}

/** The nonce of the policy that a document will have, as Next.js reads it for its own scripts: from its request. */
export const nonceOf = (request: Pick<Headers, 'get'>): string =>
  /'nonce-([^']+)'/.exec(request.get('content-security-policy') ?? '')?.[1] ?? '';
