'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { OPENINGS, type Block, type Opens } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { BLOCK_FIELDS, BLOCKS_WORDS } from '@/core/words';
import { BlockField } from './block-field';
import { PictureInput } from './file-input';

/** What a recipient gets first of all. */
export function OpensChoice({
  opens,
  blocks,
  onOpens,
}: {
  opens: Opens;
  blocks: Block[];
  onOpens: (opens: Opens) => void;
}) {
  const [wanted, setWanted] = useState<Opens['first']>(opens.first);
  const shown = blocks.filter(({ kind, on }) => on && kind !== 'action bar' && kind !== 'reply form');
  const choose = (first: Opens['first']) => {
    setWanted(first);
    if (first === 'page' || first === 'file') onOpens({ first });
    // Drawn by the card's look until there is artwork.
    if (first === 'picture') onOpens({ first, picture: null, alt: '' });
    if (first === 'block' && shown[0]) onOpens({ first, block: shown[0].id });
  };
  return (
    <div className="opens">
      <div className="choice" role="group" aria-label={BLOCKS_WORDS.opens}>
        <span className="of">{BLOCKS_WORDS.opens}</span>
        {OPENINGS.map((first) => (
          <button
            key={first}
            type="button"
            aria-pressed={first === wanted}
            disabled={first === 'block' && shown.length === 0}
            onClick={() => choose(first)}
          >
            {BLOCKS_WORDS.opensWith[first]}
          </button>
        ))}
      </div>
      {BLOCK_FIELDS.opensNote[wanted] && <p className="note">{BLOCK_FIELDS.opensNote[wanted]}</p>}
      {wanted === 'block' && opens.first === 'block' && (
        <Form.Group controlId="opens-block" className="block-field">
          <Form.Label>{BLOCK_FIELDS.opensBlock}</Form.Label>
          <Form.Select
            size="sm"
            value={opens.block}
            onChange={({ target }) => onOpens({ first: 'block', block: target.value })}
          >
            {shown.map((block) => (
              <option key={block.id} value={block.id}>
                {block.title || BLOCKS_WORDS.kinds[block.kind]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
      {wanted === 'picture' && (
        <>
          <PictureInput
            picture={opens.first === 'picture' ? opens.picture : null}
            onPicture={(picture) =>
              onOpens({ first: 'picture', picture, alt: picture && opens.first === 'picture' ? opens.alt : '' })
            }
          />
          {opens.first === 'picture' && opens.picture ? (
            <BlockField
              id="opens-alt"
              label={BLOCK_FIELDS.artText}
              long
              value={opens.alt}
              most={LIMITS.blockText}
              onKeep={(alt) => onOpens({ ...opens, alt })}
            />
          ) : (
            <p className="note">{BLOCK_FIELDS.opensPicture}</p>
          )}
        </>
      )}
    </div>
  );
}
