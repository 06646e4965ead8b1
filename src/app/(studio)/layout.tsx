import type { ReactNode } from 'react';
import { actorOrSignIn } from '@/app/request/session';
import { Frame } from '@/ui/frame/frame';

export default async function StudioLayout({ children }: { children: ReactNode }) {
  const actor = await actorOrSignIn();
  return (
    <Frame organisation={actor.organisation.name} person={actor.name}>
      {children}
    </Frame>
  );
}
