/** A page of ours as documents of the studio take it: its style sheets may come in by the nonce of the document around it. */
export function admitted(html: string): string {
  const { nonce } = document.querySelector<HTMLElement>('script[nonce]') ?? { nonce: '' };
  return nonce ? html.replaceAll('<style>', `<style nonce="${nonce}">`) : html;
}

/** A page of ours as the browser's own parser finds it. Its style sheets have a nonce, or each parsing were told as a breach of the policy. */
export const parsed = (html: string): Document => new DOMParser().parseFromString(admitted(html), 'text/html');
