declare module 'webvtt-parser' {
  export class WebVTTParser {
    parse(
      text: string,
      mode: 'metadata' | 'subtitles',
    ): { errors: { message: string; line: number }[]; cues: unknown[] };
  }
}
