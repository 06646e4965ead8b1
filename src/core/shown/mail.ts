/** A mail of the tray as its screen shows it. `html` is as it arrived. */
export type ShownMail = {
  id: string;
  at: string;
  to: string[];
  subject: string;
  text: string;
  html: string;
  headers: [name: string, value: string][];
  attachments: { name: string; type: string; bytes: number }[];
};
