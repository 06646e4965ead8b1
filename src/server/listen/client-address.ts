/**
 * The client's address: the socket's, or behind `proxies` trusted proxies the entry that the outermost of them wrote into
 * X-Forwarded-For, counted from the right, since everything further left may be invented.
 */
export function clientAddress(socketAddress: string, forwardedFor: string, proxies: number): string {
  if (proxies === 0) return socketAddress;
  const entries = forwardedFor.split(',').map((entry) => entry.trim());
  return entries.at(-proxies) || socketAddress;
}
