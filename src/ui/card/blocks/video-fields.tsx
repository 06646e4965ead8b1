'use client';
import { Form } from 'react-bootstrap';
import type { Block, Video } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { BLOCK_FIELDS } from '@/core/words';
import { freshId } from '@/ui/record/fresh-id';
import { LanguageSelect } from '@/ui/studio/language-picker';
import { BlockField } from './block-field';
import { EntryList } from './entry-list';
import { FileInput, PictureInput } from './file-input';
import { linkProblem, withScheme } from './link-problem';

type VideoBlock = Extract<Block, { kind: 'video' }>;

/** The films of a block: an own file with poster and captions, or a player elsewhere. */
export function VideoFields({ block, onChange }: { block: VideoBlock; onChange: (block: VideoBlock) => void }) {
  return (
    <EntryList<Video>
      entries={block.videos}
      most={LIMITS.videos}
      addWord={BLOCK_FIELDS.addVideo}
      nameOf={BLOCK_FIELDS.entry}
      fresh={() => ({ id: freshId(), title: '', film: null, player: '', poster: null, captions: null })}
      onEntries={(videos) => onChange({ ...block, videos })}
    >
      {(video, change) => (
        <>
          <OwnFilm video={video} onChange={change} />
          {!video.film && (
            <BlockField
              id={`${video.id}-player`}
              label={BLOCK_FIELDS.player}
              hint={BLOCK_FIELDS.playerNote}
              value={video.player}
              most={LIMITS.link}
              wrong={(url) => linkProblem(url, true)}
              onKeep={(player) => change({ player: withScheme(player) })}
            />
          )}
          <BlockField
            id={`${video.id}-title`}
            label={BLOCK_FIELDS.entryTitle}
            value={video.title}
            most={LIMITS.label}
            onKeep={(title) => change({ title })}
          />
          <PictureInput picture={video.poster} word={BLOCK_FIELDS.poster} onPicture={(poster) => change({ poster })} />
        </>
      )}
    </EntryList>
  );
}

function OwnFilm({ video, onChange }: { video: Video; onChange: (part: Partial<Video>) => void }) {
  const { film, captions } = video;
  if (!film)
    return (
      <div className="own-film">
        <FileInput<NonNullable<Video['film']>>
          word={BLOCK_FIELDS.chooseFilm}
          accept="video/mp4,video/webm"
          path="/api/films"
          limitBytes={LIMITS.videoBytes}
          onGiven={(given) => onChange({ film: given, player: '' })}
        />
        <p className="note">{BLOCK_FIELDS.filmNote(LIMITS.videoBytes / 1e6)}</p>
      </div>
    );
  return (
    <div className="own-film">
      <p>
        {BLOCK_FIELDS.filmIs(film.seconds, film.width, film.height, (film.bytes / 1e6).toFixed(1))}{' '}
        <button type="button" className="plain" onClick={() => onChange({ film: null, captions: null })}>
          {BLOCK_FIELDS.removeFilm}
        </button>
      </p>
      {captions ? (
        <div className="captions">
          <Form.Group controlId={`${video.id}-captions`} className="block-field">
            <Form.Label>{BLOCK_FIELDS.captionsLanguage}</Form.Label>
            <LanguageSelect
              value={captions.language}
              onChange={(language) => onChange({ captions: { ...captions, language: language ?? captions.language } })}
            />
          </Form.Group>
          <button type="button" className="plain" onClick={() => onChange({ captions: null })}>
            {BLOCK_FIELDS.removeCaptions}
          </button>
        </div>
      ) : (
        <FileInput<{ hash: string }>
          word={BLOCK_FIELDS.chooseCaptions}
          accept=".vtt,text/vtt"
          path="/api/captions"
          limitBytes={LIMITS.captionBytes}
          onGiven={({ hash }) => onChange({ captions: { hash, language: 'en' } })}
        />
      )}
    </div>
  );
}
