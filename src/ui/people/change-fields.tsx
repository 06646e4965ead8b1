'use client';
import { Form } from 'react-bootstrap';
import { TICKED_CHANNELS, TICKED_KINDS, type Change } from '@/core/change';
import { LIMITS } from '@/core/limits';
import { LAYOUT_NAMES, type LayoutName } from '@/core/look';
import type { Use } from '@/core/record';
import { CHANGES, LOOK } from '@/core/words';

type Of<K extends Change['of']> = Extract<Change, { of: K }>;
type Props<K extends Change['of']> = { change: Of<K>; onChange: (change: Of<K>) => void };

/** What a change begins as, of each kind. */
export const FIRST: { [K in Change['of']]: Of<K> } = {
  link: { of: 'link', from: null, to: '', label: '' },
  title: { of: 'title', from: null, to: '' },
  layout: { of: 'layout', layout: 'trod' },
  ticks: { of: 'ticks', kind: 'phone', use: null, channel: 'page', on: false, privateToo: false },
  codes: { of: 'codes' },
};
const USED = ['mobile', 'work', 'home', 'fax'] as const satisfies Use[];

type TextProps = { id: string; label: string; value: string; hint?: string; onText: (text: string) => void };
const Text = ({ id, label, value, hint, onText }: TextProps) => (
  <Form.Group controlId={id}>
    <Form.Label>{label}</Form.Label>
    <Form.Control
      value={value}
      maxLength={LIMITS.text}
      placeholder={hint}
      onChange={({ target }) => onText(target.value)}
    />
  </Form.Group>
);

function LinkFields({ change, onChange }: Props<'link'>) {
  return (
    <>
      <Text
        {...{ id: 'change-from', label: CHANGES.fromLink, hint: CHANGES.fromLinkHint, value: change.from ?? '' }}
        onText={(from) => onChange({ ...change, from: from || null })}
      />
      <Text
        {...{ id: 'change-to', label: CHANGES.toLink, value: change.to }}
        onText={(to) => onChange({ ...change, to })}
      />
      {change.from === null && (
        <Text
          {...{ id: 'change-label', label: CHANGES.label, hint: CHANGES.labelHint, value: change.label }}
          onText={(label) => onChange({ ...change, label: label.slice(0, LIMITS.label) })}
        />
      )}
    </>
  );
}

function TitleFields({ change, onChange }: Props<'title'>) {
  return (
    <>
      <Text
        {...{ id: 'change-from', label: CHANGES.fromTitle, hint: CHANGES.fromTitleHint, value: change.from ?? '' }}
        onText={(from) => onChange({ ...change, from: from || null })}
      />
      <Text
        {...{ id: 'change-to', label: CHANGES.toTitle, value: change.to }}
        onText={(to) => onChange({ ...change, to })}
      />
    </>
  );
}

type Choice = {
  id: string;
  label: string;
  value: string;
  of: Record<string, string>;
  onValue: (value: string) => void;
};
const Choose = ({ id, label, value, of, onValue }: Choice) => (
  <Form.Group controlId={id}>
    <Form.Label>{label}</Form.Label>
    <Form.Select value={value} onChange={({ target }) => onValue(target.value)}>
      {Object.entries(of).map(([key, word]) => (
        <option key={key} value={key}>
          {word}
        </option>
      ))}
    </Form.Select>
  </Form.Group>
);

function TicksFields({ change, onChange }: Props<'ticks'>) {
  const pick = <K extends string>(keys: readonly K[], words: Record<K, string>) =>
    Object.fromEntries(keys.map((key) => [key, words[key]]));
  return (
    <div className="change-ticks">
      <Choose
        {...{ id: 'change-kind', label: CHANGES.kind, value: change.kind, of: pick(TICKED_KINDS, CHANGES.kinds) }}
        onValue={(kind) => onChange({ ...change, kind: kind as typeof change.kind, use: null })}
      />
      {change.kind === 'phone' && (
        <Choose
          {...{ id: 'change-use', label: CHANGES.use, value: change.use ?? '' }}
          of={{ '': CHANGES.everyUse, ...pick(USED, CHANGES.uses) }}
          onValue={(use) => onChange({ ...change, use: (use || null) as Use | null })}
        />
      )}
      <Choose
        {...{ id: 'change-on', label: CHANGES.shows, value: change.on ? 'on' : 'off', of: CHANGES.on }}
        onValue={(on) => onChange({ ...change, on: on === 'on', privateToo: false })}
      />
      <Choose
        {...{ id: 'change-channel', label: CHANGES.channel, value: change.channel }}
        of={pick(TICKED_CHANNELS, CHANGES.channels)}
        onValue={(channel) => onChange({ ...change, channel: channel as typeof change.channel })}
      />
      {change.on && (
        <Form.Check
          id="change-private"
          label={CHANGES.privateToo}
          checked={change.privateToo}
          onChange={({ target }) => onChange({ ...change, privateToo: target.checked })}
        />
      )}
    </div>
  );
}

/** The fields of a change, of its kind. */
export function ChangeFields({ change, onChange }: { change: Change; onChange: (change: Change) => void }) {
  switch (change.of) {
    case 'link':
      return <LinkFields change={change} onChange={onChange} />;
    case 'title':
      return <TitleFields change={change} onChange={onChange} />;
    case 'layout':
      return (
        <Choose
          {...{ id: 'change-layout', label: CHANGES.layout, value: change.layout }}
          of={Object.fromEntries(LAYOUT_NAMES.map((name) => [name, LOOK.layouts[name][0]]))}
          onValue={(layout) => onChange({ of: 'layout', layout: layout as LayoutName })}
        />
      );
    case 'ticks':
      return <TicksFields change={change} onChange={onChange} />;
    case 'codes':
      return <p className="note">{CHANGES.codesText}</p>;
  }
}
