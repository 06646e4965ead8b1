'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, useSyncExternalStore } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem, ProblemCode } from '@/core/errors';
import { ENTRY } from '@/core/messages';
import { getCountries } from '@/core/record';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Fields = { name: string; email: string; password: string };

const FIELD_OF: Partial<Record<ProblemCode, keyof Fields>> = {
  NAME_MISSING: 'name',
  EMAIL_UNREADABLE: 'email',
  EMAIL_IN_USE: 'email',
  TEXT_TOO_LONG: 'email',
  PASSWORD_SHORT: 'password',
  PASSWORD_LONG: 'password',
};

/** The country that the browser's language names; it stands in the form to be set otherwise. */
const countryOf = (language: string): string => /-([A-Z]{2})\b/.exec(language)?.[1] ?? 'GB';

const subscribe = () => () => undefined;

/** Countries by name, in the order of the alphabet. */
function countryNames(): { code: string; name: string }[] {
  const names = new Intl.DisplayNames('en', { type: 'region' });
  return getCountries()
    .map((code) => ({ code, name: names.of(code) ?? code }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

const COUNTRIES = countryNames();

export function SignUp() {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const { register, handleSubmit, formState } = useForm<Fields>();
  const [chosen, setChosen] = useState<string | null>(null);
  const guessed = useSyncExternalStore(
    subscribe,
    () => countryOf(navigator.language),
    () => 'GB',
  );
  const country = chosen ?? guessed;
  const submit = handleSubmit(async (fields) => {
    const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
    const answer = await call('/api/sign-up', {
      json: { ...fields, country, timeZone },
    });
    if (!answer.ok) return setProblem(answer.problem);
    router.replace('/people');
    router.refresh();
  });
  const at = problem ? (FIELD_OF[problem.code] ?? null) : null;
  const note = (field: keyof Fields) => at === field && <ProblemNote problem={problem} id={`${field}-problem`} />;
  const field = (name: keyof Fields) => ({
    ...register(name),
    isInvalid: at === name,
    'aria-describedby': at === name ? `${name}-problem` : undefined,
  });
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.accountOfYourOwn}</h1>
      <Form onSubmit={submit} method="post" noValidate>
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
          <Form.Select value={country} onChange={(event) => setChosen(event.target.value)}>
            {COUNTRIES.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </Form.Select>
          <Form.Text>{ENTRY.countryNote}</Form.Text>
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
