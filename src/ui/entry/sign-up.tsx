'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, useSyncExternalStore } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem, ProblemCode } from '@/core/errors';
import { ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import type { Country } from '@/ui/studio/countries';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

type Fields = { name: string; email: string; password: string; country: string; timeZone: string };

/** What a form is filled in with before anybody has typed: by the browser's language, and by its clock where script runs. */
export type Guess = { country: string; timeZone: string };

const FIELD_OF: Partial<Record<ProblemCode, keyof Fields>> = {
  NAME_MISSING: 'name',
  EMAIL_UNREADABLE: 'email',
  EMAIL_IN_USE: 'email',
  TEXT_TOO_LONG: 'email',
  PASSWORD_SHORT: 'password',
  PASSWORD_LONG: 'password',
  PASSWORD_WEAK: 'password',
  TIME_ZONE_UNKNOWN: 'timeZone',
};

const subscribe = () => () => undefined;

type Props = { guess: Guess; countries: Country[]; zones: string[]; told: Problem | null };

export function SignUp({ guess, countries, zones, told }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(told);
  const { register, handleSubmit, formState } = useForm<Fields>();
  const [zone, setZone] = useState<string | null>(null);
  const clock = useSyncExternalStore(
    subscribe,
    () => Intl.DateTimeFormat().resolvedOptions().timeZone,
    () => guess.timeZone,
  );
  const timeZone = zone ?? (zones.includes(clock) ? clock : guess.timeZone);
  const submit = handleSubmit(async (fields) => {
    const answer = await call('/api/sign-up', { json: { ...fields, timeZone } });
    if (!answer.ok) return setProblem(answer.problem);
    router.replace('/people');
    router.refresh();
  });
  const at = problem ? (FIELD_OF[problem.code] ?? null) : null;
  const note = (field: keyof Fields) => at === field && <ProblemNote problem={problem} id={`${field}-problem`} />;
  const field = (name: keyof Fields) => ({
    ...register(name),
    ...invalid(`${name}-problem`, at === name),
  });
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.accountOfYourOwn}</h1>
      <Form onSubmit={submit} method="post" action="/api/sign-up" noValidate>
        <Form.Group controlId="name">
          <Form.Label>{ENTRY.yourName}</Form.Label>
          <Form.Control autoComplete="name" autoFocus {...field('name')} />
          {note('name')}
        </Form.Group>
        <Form.Group controlId="email">
          <Form.Label>{ENTRY.email}</Form.Label>
          <Form.Control type="email" autoComplete="username" {...field('email')} />
          {note('email')}
        </Form.Group>
        <Form.Group controlId="password">
          <Form.Label>{ENTRY.password}</Form.Label>
          <Form.Control type="password" autoComplete="new-password" {...field('password')} />
          {note('password') || <Form.Text>{ENTRY.passwordNote}</Form.Text>}
        </Form.Group>
        <Form.Group controlId="country">
          <Form.Label>{ENTRY.country}</Form.Label>
          <Form.Select defaultValue={guess.country} {...register('country')}>
            {countries.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </Form.Select>
          <Form.Text>{ENTRY.countryNote}</Form.Text>
        </Form.Group>
        <Form.Group controlId="timeZone">
          <Form.Label>{ENTRY.timeZone}</Form.Label>
          <Form.Select
            name="timeZone"
            value={timeZone}
            onChange={(event) => setZone(event.target.value)}
            {...invalid('timeZone-problem', at === 'timeZone')}
          >
            {zones.map((each) => (
              <option key={each} value={each}>
                {each.replaceAll('_', ' ')}
              </option>
            ))}
          </Form.Select>
          {note('timeZone') || <Form.Text>{ENTRY.timeZoneNote}</Form.Text>}
        </Form.Group>
        {!at && <ProblemNote problem={problem} />}
        <Button type="submit" disabled={formState.isSubmitting}>
          {ENTRY.makeAccount}
        </Button>
      </Form>
      <p className="aside">
        {ENTRY.haveOne} <Link href="/sign-in">{ENTRY.signIn}</Link>
      </p>
    </main>
  );
}
