import { NextResponse, type NextRequest } from 'next/server';
import { studioHeaders } from '@/app/request/studio-headers';

/**
 * What every page of the studio carries: a content security policy with a nonce of its own, which Next.js puts on its
 * scripts, and the security headers. Recipients' addresses and `/api/` have policies of their own.
 */
export function proxy(request: NextRequest) {
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString('base64');
  const headers = studioHeaders(nonce);
  const inner = new Headers(request.headers);
  // Next.js reads the nonce from the policy that it finds on the request.
  inner.set('content-security-policy', headers['Content-Security-Policy']!);
  const response = NextResponse.next({ request: { headers: inner } });
  for (const [name, value] of Object.entries(headers)) response.headers.set(name, value);
  return response;
}

export const config = {
  matcher: ['/((?!_next/static|api/|[cChH]/|fonts/|healthz|readyz|icon).*)'],
};
