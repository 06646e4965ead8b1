import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { cache } from 'react';
import { systemClock } from '@/server/clock';
import { settings } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { actorOf, SESSION_DAYS } from '@/server/services/accounts/sessions';

const secure = () => settings().BASE_URL.startsWith('https:');
/** The prefix makes browsers refuse the cookie for other hosts and without TLS. */
const cookieName = () => (secure() ? '__Host-heathland' : 'heathland');

const deviceName = () => (secure() ? '__Host-heathland-browser' : 'heathland-browser');
const DEVICE_DAYS = 180;

/** The token by which a browser is known again when somebody signs in with it: it lets nobody in. */
export const deviceToken = async (): Promise<string | undefined> => (await cookies()).get(deviceName())?.value;

export async function keepDevice(token: string): Promise<void> {
  (await cookies()).set(deviceName(), token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: secure(),
    path: '/',
    maxAge: DEVICE_DAYS * 86_400,
  });
}

export const sessionToken = async (): Promise<string | undefined> => (await cookies()).get(cookieName())?.value;

/** Looked up once a request, whoever of a page's parts asks. */
export const currentActor = cache(async (): Promise<Actor | null> => actorOf(await sessionToken(), systemClock));

/** The signed-in person, or a way to the sign-in page. */
export async function actorOrSignIn(): Promise<Actor> {
  const actor = await currentActor();
  return actor ?? redirect('/sign-in');
}

export async function keepSession(token: string): Promise<void> {
  (await cookies()).set(cookieName(), token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: secure(),
    path: '/',
    maxAge: SESSION_DAYS * 86_400,
  });
}

export async function dropSession(): Promise<void> {
  (await cookies()).set(cookieName(), '', { httpOnly: true, sameSite: 'lax', secure: secure(), path: '/', maxAge: 0 });
}
