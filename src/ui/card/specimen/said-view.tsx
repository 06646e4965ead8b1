import type { Composition } from '@/core/card';
import { faceContent } from '@/core/face';
import { passFields, type PassField } from '@/core/pass';
import { languageOf, type SpecimenOf } from '@/core/specimen';
import { CARD } from '@/core/words';
import { useWords } from './use-words';

type Props = { composition: Composition; channel: 'backdrop' | 'pass'; of: SpecimenOf };

/** What a backdrop or a pass says of what is ticked for it; how it looks, its own screen shows once the card is published. */
export function SaidView({ composition, channel, of }: Props) {
  const language = languageOf(composition, of);
  if (!useWords(language)) return null;
  const sides = channel === 'pass' ? passSides(composition, language) : backdropSides(composition, language);
  return (
    <div className="said-view" lang={language}>
      {sides.map(({ title, fields }) => (
        <section key={title}>
          <p className="caps">{title}</p>
          <dl>
            {fields.map(({ key, label, value }) => (
              <div key={key}>
                {label && <dt>{label}</dt>}
                <dd>{value}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </div>
  );
}

type Side = { title: string; fields: PassField[] };

function passSides(composition: Composition, language: ReturnType<typeof languageOf>): Side[] {
  const { primary, secondary, back } = passFields(composition, language);
  return [
    { title: CARD.passFront, fields: [...primary, ...secondary] },
    ...(back.length > 0 ? [{ title: CARD.passBack, fields: back }] : []),
  ];
}

function backdropSides(composition: Composition, language: ReturnType<typeof languageOf>): Side[] {
  const pictures = { photo: null, logo: null };
  const { name, role, firm, alarm, lines } = faceContent(composition, language, pictures, 'lines', 'backdrop');
  const plain = [name, role, firm].filter(Boolean).map((value) => ({ key: value, label: '', value }));
  const below = [...(alarm ? [alarm] : []), ...lines].map(({ id, label, value, named }) => ({
    key: id,
    ...{ label: named ? label : '', value },
  }));
  return [{ title: CARD.behindYou, fields: [...plain, ...below] }];
}
