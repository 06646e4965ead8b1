/** Text fit for HTML content and for attributes in double quotes. */
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);
