/** Where a link is reached from when not from everywhere: this computer alone, or its network. */
export type Near = 'computer' | 'network';

/**
 * Whether a link leads to a host that nobody outside reaches: loopback (RFC 1122, RFC 4291), private and link-local addresses (RFC 1918, RFC 4193,
 * RFC 3927), names of a local network (RFC 6761, RFC 6762, RFC 8375). Null where it is reached from everywhere, or is no link of the web.
 */
export function nearOf(link: string): Near | null {
  const host = /^https?:\/\/(\[[0-9a-f:.]+\]|[^/:?#]+)/i.exec(link)?.[1]?.toLowerCase();
  if (!host) return null;
  if (/^(localhost|127(\.\d{1,3}){3}|\[::1\]|0\.0\.0\.0)$/.test(host) || host.endsWith('.localhost')) return 'computer';
  const isPrivate =
    /^(10(\.\d{1,3}){3}|192\.168(\.\d{1,3}){2}|172\.(1[6-9]|2\d|3[01])(\.\d{1,3}){2}|169\.254(\.\d{1,3}){2})$/.test(
      host,
    ) ||
    /^\[f[cd][0-9a-f]{2}:|^\[fe[89ab][0-9a-f]:/.test(host) ||
    /(^|\.)(local|internal|lan|home\.arpa)$/.test(host) ||
    !/[.:]/.test(host);
  return isPrivate ? 'network' : null;
}
