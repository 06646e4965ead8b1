import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import '@/ui/theme/theme.scss';

export const metadata: Metadata = {
  title: { default: 'Heathland', template: '%s · Heathland' },
  description: 'A studio for digital business cards',
};
export const viewport: Viewport = { width: 'device-width', initialScale: 1, colorScheme: 'light dark' };

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
