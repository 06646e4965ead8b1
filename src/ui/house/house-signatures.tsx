'use client';
import { Form } from 'react-bootstrap';
import { LIMITS } from '@/core/limits';
import { languageName, type Language } from '@/core/language';
import {
  FIRST_SIGNATURE,
  SIGNATURE_LAYOUTS,
  VARIANTS,
  type HouseSignature,
  type SignatureOptions,
  type SignatureParts,
  type Texts,
} from '@/core/signature';
import { HOUSE, SIGNATURE } from '@/core/words';
import { LanguagePicker } from '@/ui/studio/language-picker';
import { HouseStrips } from './house-strips';

type Props = { signature: HouseSignature | null; onSignature: (signature: HouseSignature | undefined) => void };

/** What an organisation says of its people's mail signatures: how they begin, what stands below each, and notices for a while. */
export function HouseSignatures({ signature, onSignature }: Props) {
  return (
    <div className="house-signatures">
      <Form.Check
        type="switch"
        id="house-signature"
        label={HOUSE.signatureOn}
        checked={signature !== null}
        onChange={({ target }) =>
          onSignature(target.checked ? { options: FIRST_SIGNATURE, legal: {}, disclaimer: {}, strips: [] } : undefined)
        }
      />
      {signature && (
        <>
          <p className="note">{HOUSE.signatureText}</p>
          <Options options={signature.options} onOptions={(options) => onSignature({ ...signature, options })} />
          <TextsByLanguage signature={signature} onSignature={onSignature} />
          <HouseStrips strips={signature.strips} onStrips={(strips) => onSignature({ ...signature, strips })} />
        </>
      )}
    </div>
  );
}

function Options({
  options,
  onOptions,
}: {
  options: SignatureOptions;
  onOptions: (options: SignatureOptions) => void;
}) {
  return (
    <>
      <div className="row-fields">
        <Form.Group controlId="house-signature-layout">
          <Form.Label>{SIGNATURE.layout}</Form.Label>
          <Form.Select
            size="sm"
            value={options.layout}
            onChange={({ target }) => onOptions({ ...options, layout: target.value as SignatureOptions['layout'] })}
          >
            {SIGNATURE_LAYOUTS.map((each) => (
              <option key={each} value={each}>
                {SIGNATURE.layouts[each]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="house-signature-pictures">
          <Form.Label>{SIGNATURE.pictures}</Form.Label>
          <Form.Select
            size="sm"
            value={options.pictures}
            onChange={({ target }) => onOptions({ ...options, pictures: target.value as SignatureOptions['pictures'] })}
          >
            {(['linked', 'inside'] as const).map((each) => (
              <option key={each} value={each}>
                {SIGNATURE.picturesAre[each]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      </div>
      <div className="row-fields">
        {VARIANTS.map((variant) => (
          <fieldset key={variant}>
            <legend className="caps">{SIGNATURE.partsOf(variant)}</legend>
            {(Object.keys(SIGNATURE.parts) as (keyof SignatureParts)[]).map((part) => (
              <Form.Check
                key={part}
                id={`house-${variant}-${part}`}
                label={SIGNATURE.parts[part]}
                checked={options[variant][part]}
                onChange={({ target }) =>
                  onOptions({ ...options, [variant]: { ...options[variant], [part]: target.checked } })
                }
              />
            ))}
          </fieldset>
        ))}
      </div>
    </>
  );
}

const ANY = 'any';

/** The legal line and the disclaimer, for every language at first, and in those that are added. */
function TextsByLanguage({
  signature,
  onSignature,
}: {
  signature: HouseSignature;
  onSignature: (signature: HouseSignature) => void;
}) {
  const { legal, disclaimer } = signature;
  const languages = [...new Set([ANY, ...Object.keys(legal), ...Object.keys(disclaimer)])];
  const set = (part: 'legal' | 'disclaimer', language: string, text: string) =>
    onSignature({ ...signature, [part]: { ...signature[part], [language]: text } });
  const without = (texts: Texts, language: string) =>
    Object.fromEntries(Object.entries(texts).filter(([each]) => each !== language));
  return (
    <>
      {languages.map((language) => {
        const word =
          language === ANY
            ? languages.length === 1
              ? HOUSE.allLanguages
              : HOUSE.anyLanguage
            : languageName(language as Language);
        return (
          <fieldset key={language} className="house-texts">
            <legend className="caps">
              {HOUSE.textFor} {word}
            </legend>
            <Form.Control
              size="sm"
              aria-label={`${HOUSE.legal}, ${word}`}
              placeholder={`${HOUSE.legal}: ${HOUSE.legalHint}`}
              value={legal[language] ?? ''}
              maxLength={LIMITS.text}
              onChange={({ target }) => set('legal', language, target.value)}
            />
            <Form.Control
              as="textarea"
              rows={2}
              size="sm"
              aria-label={`${HOUSE.disclaimer}, ${word}`}
              placeholder={`${HOUSE.disclaimer}: ${HOUSE.disclaimerHint}`}
              value={disclaimer[language] ?? ''}
              maxLength={LIMITS.text}
              onChange={({ target }) => set('disclaimer', language, target.value)}
            />
            {language !== ANY && (
              <button
                type="button"
                className="plain"
                aria-label={HOUSE.removeTexts(word)}
                onClick={() =>
                  onSignature({
                    ...signature,
                    legal: without(legal, language),
                    disclaimer: without(disclaimer, language),
                  })
                }
              >
                {HOUSE.takeAway}
              </button>
            )}
          </fieldset>
        );
      })}
      <LanguagePicker
        id="house-texts-language"
        word={HOUSE.addLanguage}
        taken={languages as Language[]}
        onPick={(language) => set('legal', language, '')}
      />
    </>
  );
}
