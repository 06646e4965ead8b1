import type { Metadata, Viewport } from 'next';
import { connection } from 'next/server';
import type { ReactNode } from 'react';
import { ENTRY } from '@/core/words';
import '@/ui/theme/theme.scss';

export const metadata: Metadata = {
  title: { default: ENTRY.product, template: `%s · ${ENTRY.product}` },
  description: ENTRY.about,
};
export const viewport: Viewport = { width: 'device-width', initialScale: 1, colorScheme: 'light dark' };

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Each page is made for its request: the nonce of its scripts is used once.
  await connection();
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
