'use client';
import { Form } from 'react-bootstrap';
import type { HouseStyle } from '@/core/house';
import type { Look } from '@/core/look';
import { GIVEN } from '@/core/words';
import { shownValue } from '@/core/record';
import { Section } from '@/ui/look/look-fields';

/** What the house style adds to this card; what is not locked may be left out. */
export function HouseShown({ house, look, onLook }: { house: HouseStyle; look: Look; onLook: (look: Look) => void }) {
  const entry = (part: 'lines' | 'blocks', id: string, word: string) => {
    const reason = house.locks[part];
    return (
      <li key={id}>
        <Form.Check
          id={`shows-${id}`}
          label={word}
          checked={reason !== undefined || !look.hides.includes(id)}
          disabled={reason !== undefined}
          onChange={({ target }) =>
            onLook({
              ...look,
              hides: target.checked ? look.hides.filter((each) => each !== id) : [...look.hides, id],
            })
          }
        />
        {reason !== undefined && (
          <small className="lock">
            {GIVEN.locked}: {reason}
          </small>
        )}
      </li>
    );
  };
  if (house.lines.length + house.blocks.length === 0) return null;
  return (
    <Section title={GIVEN.house}>
      <ul className="house-shown">
        {house.lines.map(({ id, label, detail }) =>
          entry('lines', id, [label, shownValue(detail)].filter(Boolean).join(': ')),
        )}
        {house.blocks.map((block) =>
          entry('blocks', block.id, block.title || (block.kind === 'about' ? block.text.slice(0, 80) : block.kind)),
        )}
      </ul>
    </Section>
  );
}
