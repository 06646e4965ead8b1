'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { CompanyDefaults } from '@/core/company';
import { wordingOf, type Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { COMPANY, ENTRY } from '@/core/words';
import { LEGAL, type Legal } from '@/core/page';
import { isPattern, readLink } from '@/core/record';
import { call } from '@/ui/studio/call';
import type { Country } from '@/ui/studio/countries';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { DefaultFields } from './default-fields';

type Kept = {
  name: string;
  country: string;
  timeZone: string;
  links: Partial<Record<Legal, string>>;
  defaults: CompanyDefaults;
};
type Fields = { name: string; country: string; timeZone: string } & Record<Legal, string>;

const fieldsOf = ({ links, name, country, timeZone }: Kept): Fields => ({
  name,
  country,
  timeZone,
  imprint: links.imprint ?? '',
  privacy: links.privacy ?? '',
  accessibility: links.accessibility ?? '',
});

/** Why an address cannot be linked to, or true. */
function linkProblem(typed: string): string | true {
  if (!typed.trim()) return true;
  const read = readLink(typed);
  if (!read.ok) return wordingOf(read.problem);
  return /^https?:/.test(read.value.url) || wordingOf({ code: 'LINK_UNREADABLE' });
}

/** What the organisation is called, where it is, what it links to below each of its pages, and what its members begin with. */
export function Settings({
  settings,
  countries,
  zones,
  alone,
}: {
  settings: Kept;
  countries: Country[];
  zones: string[];
  alone: boolean;
}) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [saved, setSaved] = useState(false);
  const [defaults, setDefaults] = useState(settings.defaults);
  const [kept, setKept] = useState(settings.defaults);
  const { register, handleSubmit, formState, reset } = useForm<Fields>({ defaultValues: fieldsOf(settings) });
  const { errors, isSubmitting } = formState;
  const isDirty = formState.isDirty || defaults !== kept;
  const fits = defaults.patterns.every(isPattern);
  const submit = handleSubmit(async ({ name, country, timeZone, ...links }) => {
    const answer = await call<Kept>('/api/company', {
      method: 'PUT',
      json: { name, country, timeZone, links, defaults },
    });
    setProblem(answer.ok ? null : answer.problem);
    setSaved(answer.ok);
    if (!answer.ok) return;
    reset(fieldsOf(answer.value));
    setDefaults(answer.value.defaults);
    setKept(answer.value.defaults);
    router.refresh();
  });
  const field = (name: keyof Fields) => ({
    ...invalid(`${name}-problem`, errors[name] !== undefined),
  });
  const note = (name: keyof Fields) =>
    errors[name]?.message && (
      <p className="problem" id={`${name}-problem`} role="alert">
        {errors[name].message}
      </p>
    );
  return (
    <Form className="company settings" onSubmit={submit} noValidate>
      <Form.Group controlId="name">
        <Form.Label>{alone ? COMPANY.aloneName : COMPANY.name}</Form.Label>
        <Form.Control
          maxLength={LIMITS.name}
          {...register('name', { required: wordingOf({ code: 'NAME_MISSING' }) })}
          {...field('name')}
        />
        {note('name')}
      </Form.Group>
      <Form.Group controlId="country">
        <Form.Label>{ENTRY.country}</Form.Label>
        <Form.Select {...register('country')}>
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
        <Form.Select {...register('timeZone')}>
          {zones.map((each) => (
            <option key={each} value={each}>
              {each.replaceAll('_', ' ')}
            </option>
          ))}
        </Form.Select>
        <Form.Text>{ENTRY.timeZoneNote}</Form.Text>
      </Form.Group>
      <fieldset>
        <legend>{COMPANY.links}</legend>
        <p className="small">{COMPANY.linksNote}</p>
        {LEGAL.map((which) => (
          <Form.Group controlId={which} key={which}>
            <Form.Label>{COMPANY.link[which]}</Form.Label>
            <Form.Control
              className="mono"
              inputMode="url"
              autoCapitalize="off"
              spellCheck={false}
              maxLength={LIMITS.link}
              {...register(which, { validate: linkProblem })}
              {...field(which)}
            />
            {note(which)}
          </Form.Group>
        ))}
      </fieldset>
      <DefaultFields defaults={defaults} onDefaults={setDefaults} />
      <ProblemNote problem={problem} />
      <div className="end">
        <Button type="submit" disabled={isSubmitting || !isDirty || !fits}>
          {COMPANY.saveSettings}
        </Button>
        <span role="status">{saved && !isDirty ? COMPANY.settingsSaved : ''}</span>
      </div>
      {alone && (
        <div className="aside">
          <p className="small">{COMPANY.aloneNote}</p>
          <Link className="btn btn-quiet" href="/company/members">
            {COMPANY.addMember}
          </Link>
        </div>
      )}
    </Form>
  );
}
