'use client';
import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '@/core/limits';
import { faultOfStrip, leadsWell, type Strip } from '@/core/signature';
import { HOUSE } from '@/core/words';
import { PictureInput } from '@/ui/card/blocks/file-input';
import { freshId } from '@/ui/record/fresh-id';
import { invalid } from '@/ui/studio/problem-note';

const today = () => new Date().toLocaleDateString('sv-SE');

/** Notices below everybody's new messages, each for its days. */
export function HouseStrips({ strips, onStrips }: { strips: Strip[]; onStrips: (strips: Strip[]) => void }) {
  const set = (id: string, change: Partial<Strip>) =>
    onStrips(strips.map((strip) => (strip.id === id ? { ...strip, ...change } : strip)));
  return (
    <>
      <h3 className="caps">{HOUSE.strips}</h3>
      <p className="note">{HOUSE.stripsText}</p>
      {strips.map((strip) => (
        <fieldset key={strip.id} className="house-strip">
          <legend className="visually-hidden">{strip.text || HOUSE.strips}</legend>
          <Form.Group controlId={`${strip.id}-text`}>
            <Form.Label>{HOUSE.stripText}</Form.Label>
            <Form.Control
              size="sm"
              value={strip.text}
              maxLength={LIMITS.label}
              placeholder={HOUSE.stripTextHint}
              onChange={({ target }) => set(strip.id, { text: target.value })}
            />
          </Form.Group>
          <Form.Group controlId={`${strip.id}-link`}>
            <Form.Label>{HOUSE.stripLink}</Form.Label>
            <Form.Control
              size="sm"
              type="url"
              value={strip.link}
              maxLength={LIMITS.link}
              onChange={({ target }) => set(strip.id, { link: target.value.trim() })}
              {...invalid(`${strip.id}-link-problem`, !leadsWell(strip))}
            />
            {!leadsWell(strip) && (
              <p className="problem" id={`${strip.id}-link-problem`}>
                {HOUSE.stripLinkWrong}
              </p>
            )}
          </Form.Group>
          <div className="row-fields">
            <Form.Group controlId={`${strip.id}-starts`}>
              <Form.Label>{HOUSE.stripStarts}</Form.Label>
              <Form.Control
                size="sm"
                type="date"
                value={strip.starts}
                onChange={({ target }) => set(strip.id, { starts: target.value })}
              />
            </Form.Group>
            <Form.Group controlId={`${strip.id}-ends`}>
              <Form.Label>{HOUSE.stripEnds}</Form.Label>
              <Form.Control
                size="sm"
                type="date"
                value={strip.ends}
                onChange={({ target }) => set(strip.id, { ends: target.value })}
                {...invalid(`${strip.id}-ends-problem`, faultOfStrip(strip) === 'backwards')}
              />
            </Form.Group>
          </div>
          {faultOfStrip(strip) === 'backwards' && (
            <p className="problem" id={`${strip.id}-ends-problem`}>
              {HOUSE.stripBackwards}
            </p>
          )}
          {strip.picture && <img src={`/api/pictures/${strip.picture.hash}`} alt={strip.text} />}
          <div className="pair">
            <PictureInput
              picture={null}
              word={HOUSE.stripPicture}
              onPicture={(picture) => set(strip.id, { picture })}
            />
            {strip.picture && (
              <button type="button" className="plain" onClick={() => set(strip.id, { picture: null })}>
                {HOUSE.takeAway}
              </button>
            )}
            <button
              type="button"
              className="plain"
              onClick={() => onStrips(strips.filter(({ id }) => id !== strip.id))}
            >
              {strip.text ? HOUSE.removeStrip(strip.text) : HOUSE.takeAway}
            </button>
          </div>
        </fieldset>
      ))}
      {strips.length < LIMITS.strips && (
        <Button
          variant="quiet"
          size="sm"
          onClick={() =>
            onStrips([...strips, { id: freshId(), text: '', link: '', picture: null, starts: today(), ends: today() }])
          }
        >
          {HOUSE.addStrip}
        </Button>
      )}
    </>
  );
}
