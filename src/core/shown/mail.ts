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

/** Whether a member may write to others from here: their own address must be confirmed, and the installation send mail at all. */
export type MailAllowed = 'yes' | 'unconfirmed' | 'closed';
