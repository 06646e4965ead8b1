/** A content line put together from its physical lines. `badly`: it had been broken without the space that folding wants. */
export type LogicalLine = { text: string; line: number; badly: boolean };

const QUOTED_PRINTABLE = /^[^:]{0,1000};(?:ENCODING=)?["']?QUOTED-PRINTABLE/i;
const BASE64 = /^[^:]{0,1000};(?:ENCODING=)?["']?(?:BASE64|B)["']?[;:]/i;
const PROPERTY_HEAD = /^\s*[A-Za-z0-9_.-]+\s*[;:]/;
/** Texts of several lines, whose line ends some programs forget to escape; of others a stray line is no part. */
const SEVERAL_LINES = /^\s*(?:[\w-]+\.)?(?:NOTE|LABEL)\s*[;:]/i;
const FRAME = /^\s+(?:BEGIN|END)\s*:\s*VCARD\s*$/i;
const BASE64_LETTERS = /^[A-Za-z0-9+/=]+$/;
/** A program that breaks its lines at about 75 octets breaks within a word; a shorter line ends where the writer ended it. */
const USUAL_LENGTH = 70;

/**
 * Unfolds content lines. A line goes on where the next one starts with a space or tab (RFC 6350 3.2; vCard 2.1 keeps that
 * space, as RFC 822 folds), where a quoted-printable one ends with `=` (2.1), and, badly, where the next one is no property
 * (common practice, no published source). Any of `\r\n`, `\n` and `\r` ends a line; empty ones fall away.
 */
export class Unfolder {
  private rest: string[] = [];
  private parts: string[] = [];
  private line = 0;
  private last = '';
  private soft = false;
  private badly = false;
  private count = 0;

  constructor(
    private readonly take: (line: LogicalLine) => void,
    /** Whether folding keeps the space, asked at each fold: a card says its version after its first line. */
    private readonly keepsSpace: () => boolean,
  ) {}

  push(text: string): void {
    // A line that goes on and on is put together once, at its end.
    if (!/[\r\n]/.test(text)) return void this.rest.push(text);
    this.rest.push(text);
    let whole = this.rest.length === 1 ? text : this.rest.join('');
    // A carriage return at the very end may be half of a line end.
    const held = whole.endsWith('\r') ? '\r' : '';
    if (held) whole = whole.slice(0, -1);
    if (/\r(?!\n)/.test(whole)) whole = whole.replace(/\r(?!\n)/g, '\n');
    let from = 0;
    for (let end = whole.indexOf('\n'); end >= 0; end = whole.indexOf('\n', from)) {
      this.physical(whole.slice(from, end > from && whole[end - 1] === '\r' ? end - 1 : end));
      from = end + 1;
    }
    const left = whole.slice(from) + held;
    this.rest = left ? [left] : [];
  }

  end(): void {
    const left = this.rest.join('');
    if (left) this.physical(left.replace(/\r$/, ''));
    this.rest = [];
    this.flush();
  }

  private physical(raw: string): void {
    this.count += 1;
    // A mark stands before the first line, and before further ones where files were put together.
    const text = raw.charCodeAt(0) === 0xfeff ? raw.slice(1) : raw;
    const first = text.charCodeAt(0);
    if (this.soft) return this.more(text);
    if ((first === 0x20 || first === 0x09) && this.parts.length > 0 && !this.isFrame(text))
      return this.more(this.keepsSpace() ? text : text.slice(1));
    if (!text || !text.trim()) return this.flush();
    if (this.parts.length > 0 && !PROPERTY_HEAD.test(text)) {
      const start = this.parts[0]!;
      if (BASE64.test(start)) {
        if (BASE64_LETTERS.test(text.trim())) return this.more(text);
      } else {
        const within = this.last.length >= USUAL_LENGTH;
        if (within || SEVERAL_LINES.test(start)) {
          this.badly = true;
          return this.more(within ? text : (QUOTED_PRINTABLE.test(start) ? '=0A' : '\\n') + text);
        }
      }
    }
    this.flush();
    this.line = this.count;
    this.more(text);
  }

  /** An indented BEGIN or END after a line that nobody had to break: no continuation (common practice, no published source). */
  private isFrame = (text: string): boolean => text.length < 40 && this.last.length < USUAL_LENGTH && FRAME.test(text);

  private more(text: string): void {
    this.last = text;
    this.soft = text.endsWith('=') && QUOTED_PRINTABLE.test(this.parts[0] ?? text);
    this.parts.push(this.soft ? text.slice(0, -1) : text);
  }

  private flush(): void {
    if (this.parts.length === 0) return;
    const text = this.parts.length === 1 ? this.parts[0]! : this.parts.join('');
    this.parts = [];
    this.soft = false;
    const { line, badly } = this;
    this.badly = false;
    this.take({ text, line, badly });
  }
}
