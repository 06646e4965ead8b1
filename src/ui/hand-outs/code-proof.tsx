'use client';
import { Button } from 'react-bootstrap';
import { figure } from '@/core/language';
import type { CodeReport, Tested } from '@/core/proof/scan';
import { byKind, readByBoth, type ScanProof, type Tried } from '@/core/proof/scan/shape';
import { distanceMm, type CodeStyle } from '@/core/qr';
import { CODES } from '@/core/words';
import { useFullProof } from './use-code-proof';

type Props = {
  report: CodeReport | null;
  remedy: Tested | null | 'looking';
  busy: boolean;
  widthMm: number;
  text: string;
  style: CodeStyle;
  onRemedy: (style: CodeStyle) => void;
  disabled: boolean;
};

/** What a code's proof found, as people think of it: the sentence first, then what helps, then the figures. */
export function CodeProof({ report, remedy, busy, widthMm, text, style, onRemedy, disabled }: Props) {
  const { full, run, stop } = useFullProof({ text, style });
  return (
    <section aria-label={CODES.proof} className={busy ? 'busy' : ''}>
      <p className="caps">{CODES.proof}</p>
      {report ? <Verdict report={report} widthMm={widthMm} /> : <p className="finding">{CODES.proving}</p>}
      {report && report.faults.length > 0 && !busy && (
        <div className="remedy">
          {remedy === 'looking' ? (
            <p>{CODES.lookingForRemedy}</p>
          ) : remedy === null ? (
            <p>{CODES.nothingHelps}</p>
          ) : (
            <>
              <p>{CODES.remedied(remedy)}</p>
              <Button variant="quiet" size="sm" disabled={disabled} onClick={() => onRemedy(remedy.style)}>
                {CODES.apply}
              </Button>
            </>
          )}
        </div>
      )}
      {report && <Trials proof={report.proof} />}
      {report && <Figures report={report} />}
      <div className="full-proof">
        {full.state === 'running' ? (
          <p role="status">
            <progress max={full.of} value={full.done} /> {CODES.fullProgress(full.done, full.of)}{' '}
            <button type="button" className="btn btn-quiet btn-sm" onClick={stop}>
              {CODES.stop}
            </button>
          </p>
        ) : (
          <p>
            <button type="button" className="btn btn-quiet btn-sm" onClick={run}>
              {CODES.full}
            </button>{' '}
            <span className="note">{CODES.fullNote}</span>
          </p>
        )}
        {full.state === 'done' && <FullFigures proof={full.proof} />}
      </div>
    </section>
  );
}

function Verdict({ report, widthMm }: { report: CodeReport; widthMm: number }) {
  const { read, of } = readByBoth(report.proof);
  const { fewestPixels, smallestMm } = report;
  const tooSmall = smallestMm !== null && widthMm < smallestMm;
  const sentence =
    report.faults.length > 0
      ? CODES.doesNotScan
      : tooSmall
        ? CODES.tooSmall(widthMm, smallestMm)
        : fewestPixels === null
          ? CODES.readOf(read, of)
          : CODES.scansAt(widthMm, distanceMm(widthMm, report.side, fewestPixels));
  const passed = report.faults.length === 0 && !tooSmall;
  return (
    <>
      <p className={`finding ${passed ? 'passed' : 'failed'}`} role="status">
        <span aria-hidden="true">{passed ? '✓' : '✕'}</span> {sentence}
      </p>
      <p>{CODES.readOf(read, of)}</p>
      {report.faults.map((fault) => (
        <p key={fault} className="problem">
          {CODES.faults[fault]}
        </p>
      ))}
    </>
  );
}

const both = ({ read }: Tried) => read.zxing === true && read.qr === true;
const none = ({ read }: Tried) => read.zxing !== true && read.qr !== true;

/** Each kind of picture with a mark a picture: whole where both readers read it, half where one did, empty where none. */
function Trials({ proof }: { proof: ScanProof }) {
  return (
    <dl className="trials">
      {byKind(proof).map(({ kind, trials }) => (
        <div key={kind}>
          <dt>{CODES.kinds[kind]}</dt>
          <dd>
            <span role="img" aria-label={CODES.trialNote(CODES.kinds[kind], trials.filter(both).length, trials.length)}>
              {trials.map((trial, at) => (
                <i key={at} className={both(trial) ? 'both' : none(trial) ? 'none' : 'one'} />
              ))}
            </span>
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Figures({ report }: { report: CodeReport }) {
  const { spent, measures, smallestMm, proof } = report;
  const left = spent.guaranteed - spent.byMark - spent.byShapes;
  return (
    <details className="figures">
      <summary>{CODES.details}</summary>
      <dl className="facts">
        <dt>{CODES.byReader}</dt>
        <dd>
          {Object.entries(proof.read)
            .map(([name, read]) => CODES.readBy(name, read, proof.trials.length))
            .join(', ')}
        </dd>
        {smallestMm !== null && (
          <>
            <dt>{CODES.smallest}</dt>
            <dd>{CODES.mm(smallestMm)}</dd>
          </>
        )}
        <dt>{CODES.contrast}</dt>
        <dd>{figure(measures.contrast)}</dd>
        <dt>{CODES.level}</dt>
        <dd>{report.level}</dd>
        <dt>{CODES.budget}</dt>
        <dd>{CODES.budgetOf(spent.most, spent.guaranteed, spent.codewords)}</dd>
        <dt>{CODES.spent}</dt>
        <dd>{CODES.spentOf(spent.byMark, spent.byShapes)}</dd>
        <dt>{CODES.left}</dt>
        <dd>{figure(Math.max(0, left))}</dd>
      </dl>
      <p className="note">{CODES.tenToOne}</p>
      <p className="note">{CODES.pass}</p>
    </details>
  );
}

/** The full proof by kind of picture and reader. */
function FullFigures({ proof }: { proof: ScanProof }) {
  const names = Object.keys(proof.read) as (keyof ScanProof['read'])[];
  return (
    <table className="rows dense">
      <thead>
        <tr>
          <th>{CODES.full}</th>
          {names.map((name) => (
            <th key={name} className="num">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {byKind(proof).map(({ kind, trials }) => (
          <tr key={kind}>
            <td>{CODES.kinds[kind]}</td>
            {names.map((name) => (
              <td key={name} className="num">
                {trials.filter(({ read }) => read[name]).length}/{trials.length}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
