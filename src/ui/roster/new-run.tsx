'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { FIRST_OPTIONS, type Field } from '@/core/roster';
import { ROSTER } from '@/core/words';
import { CardPicker } from '@/ui/card/card-picker';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { MappingTable, type MappedColumn } from './mapping-table';
import { SheetDrop } from './sheet-drop';

type Read = {
  sheets: string[];
  sheet: number;
  headingRow: number;
  columns: MappedColumn[];
  rows: number;
  mapping: { id: string; name: string } | null;
};
type PatternNeeds = { needed: Field[]; picture: boolean };

/** Begins a run: a sheet, the card that others are made like, what its columns hold. The sheet stays here until it is all said. */
export function NewRun({ pattern: known, today }: { pattern: { id: string; name: string } | null; today: string }) {
  const router = useRouter();
  const [file, setFile] = useState<File | null>(null);
  const [read, setRead] = useState<Read | null>(null);
  const [pattern, setPattern] = useState(known?.id ?? null);
  const [needs, setNeeds] = useState<PatternNeeds | null>(null);
  const [name, setName] = useState('');
  const [keepAs, setKeepAs] = useState('');
  const [busy, setBusy] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);

  useEffect(() => {
    let current = true;
    if (pattern)
      void call<PatternNeeds>(`/api/roster/pattern/${pattern}`).then(
        (answer) => current && setNeeds(answer.ok ? answer.value : null),
      );
    return () => {
      current = false;
    };
  }, [pattern]);

  async function look(of: File, sheet = 0, headings: number | null = null) {
    setProblem(null);
    const limitBytes = LIMITS.sheetBytes;
    if (of.size > limitBytes) return setProblem({ code: 'FILE_TOO_LARGE', limitBytes });
    setBusy(of.name);
    const asked = `sheet=${sheet}${headings ? `&headings=${headings}` : ''}`;
    const answer = await call<Read>(`/api/roster/columns?${asked}`, { bytes: of });
    setBusy(null);
    if (!answer.ok) return setProblem(answer.problem);
    setFile(of);
    setRead(answer.value);
    setName((known) => known || `${of.name.replace(/\.[a-z]{2,4}$/i, '')} ${today}`.slice(0, 80));
    setKeepAs(answer.value.mapping?.name ?? '');
  }

  async function begin() {
    if (!file || !read || !pattern) return;
    setBusy(file.name);
    setProblem(null);
    const columns = read.columns.map(({ heading, field }) => ({ heading, field }));
    const begun = await call<{ id: string }>('/api/roster', {
      json: {
        ...{ name, cardId: pattern, columns, place: { sheet: read.sheet, headingRow: read.headingRow } },
        ...{ options: FIRST_OPTIONS, keepAs: keepAs.trim() || null },
      },
    });
    const given = begun.ok ? await call(`/api/roster/${begun.value.id}/sheet`, { method: 'PUT', bytes: file }) : begun;
    if (begun.ok && given.ok) return router.push(`/roster/${begun.value.id}`);
    setBusy(null);
    if (!given.ok) setProblem(given.problem);
    // A run without a sheet is nothing to find again.
    if (begun.ok) await call(`/api/roster/${begun.value.id}`, { method: 'DELETE' });
  }

  const used = read?.columns.flatMap(({ field }) => field ?? []) ?? [];
  const missing = (needs?.needed ?? []).filter((field) => !used.includes(field));
  const hasKey = used.includes('staff number') || used.includes('email');
  return (
    <section className="new-run">
      <div className="run-pattern">
        <CardPicker
          word={ROSTER.pattern}
          hint={ROSTER.patternPerson}
          except={null}
          chosen={pattern}
          {...(known ? { chosenName: known.name } : {})}
          onChoose={(id) => setPattern(id)}
        />
        <p className="note">{ROSTER.patternText}</p>
        {pattern && (
          <p className="note">
            <a className="btn btn-quiet btn-sm" href={`/api/roster/sheet/${pattern}`} download>
              {ROSTER.ownSheet}
            </a>{' '}
            {ROSTER.ownSheetText}
          </p>
        )}
      </div>
      {!read && <SheetDrop busy={busy} onFile={(of) => void look(of)} />}
      <ProblemNote problem={problem} />
      {read && file && (
        <>
          <h2>{ROSTER.mapTitle}</h2>
          <p className="finding">{ROSTER.mapText(read.rows, used.length)}</p>
          {read.mapping && <p className="note">{ROSTER.known(read.mapping.name)}</p>}
          <div className="run-place">
            {read.sheets.length > 1 && (
              <Form.Group controlId="roster-sheet">
                <Form.Label>{ROSTER.sheetOf}</Form.Label>
                <Form.Select
                  size="sm"
                  value={read.sheet}
                  disabled={busy !== null}
                  onChange={({ target }) => void look(file, Number(target.value))}
                >
                  {read.sheets.map((each, at) => (
                    <option key={at} value={at}>
                      {each}
                    </option>
                  ))}
                </Form.Select>
              </Form.Group>
            )}
            <Form.Group controlId="roster-headings">
              <Form.Label>{ROSTER.headingsIn}</Form.Label>
              <Form.Control
                size="sm"
                type="number"
                min={1}
                max={1_000}
                defaultValue={read.headingRow}
                key={`${read.sheet} ${read.headingRow}`}
                disabled={busy !== null}
                onBlur={({ target }) => {
                  const row = Number(target.value);
                  if (row >= 1 && row !== read.headingRow) void look(file, read.sheet, row);
                }}
              />
            </Form.Group>
            <button type="button" className="plain" disabled={busy !== null} onClick={() => setRead(null)}>
              {ROSTER.chooseAnother}
            </button>
          </div>
          <MappingTable
            columns={read.columns}
            needed={needs?.needed ?? []}
            onColumns={(columns) => setRead({ ...read, columns })}
          />
          {needs && (
            <p className={missing.length > 0 ? 'attention' : 'note'}>
              {missing.length > 0 ? ROSTER.needed(missing.map((field) => ROSTER.fields[field])) : ROSTER.nothingMissing}
            </p>
          )}
          {!hasKey && <p className="attention">{ROSTER.keyMissing}</p>}
          {!pattern && <p className="attention">{ROSTER.patternMissing}</p>}
          <div className="run-names">
            <Form.Group controlId="roster-name">
              <Form.Label>{ROSTER.nameOfRun}</Form.Label>
              <Form.Control size="sm" value={name} maxLength={80} onChange={({ target }) => setName(target.value)} />
            </Form.Group>
            <Form.Group controlId="roster-keep">
              <Form.Label>{ROSTER.keepAs}</Form.Label>
              <Form.Control
                size="sm"
                value={keepAs}
                maxLength={80}
                onChange={({ target }) => setKeepAs(target.value)}
              />
              <Form.Text>{ROSTER.keepAsText}</Form.Text>
            </Form.Group>
          </div>
          <Button disabled={busy !== null || !pattern || !hasKey || name.trim() === ''} onClick={() => void begin()}>
            {busy ? ROSTER.reading(busy) : ROSTER.review}
          </Button>
        </>
      )}
    </section>
  );
}
