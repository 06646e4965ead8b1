import { plural } from '@/core/language';
/** Languages in which people are welcomed. */
export const WELCOME_LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pl'] as const;
export type WelcomeLanguage = (typeof WELCOME_LANGUAGES)[number];

type Said = {
  subject: string;
  again: string;
  greeting: (name: string) => string;
  text: string;
  word: string;
  once: string;
  not: string;
};

/** What a welcome says: to an address that the firm has given, so nothing in it but names of the firm's own making. */
const SAID: Record<WelcomeLanguage, (firm: string) => Said> = {
  en: (firm) => ({
    subject: `${firm}: your digital business card`,
    again: `${firm}: your card is waiting for you`,
    greeting: (name) => `Hello ${name},`,
    text: `${firm} has made a digital business card for you. Sign in to see it, to add your photo and to hand it over by its code.`,
    word: 'See your card',
    once: 'The link holds for a week and works once.',
    not: `If this is not for you, leave it, or tell ${firm}.`,
  }),
  de: (firm) => ({
    subject: `${firm}: Ihre digitale Visitenkarte`,
    again: `${firm}: Ihre Visitenkarte wartet auf Sie`,
    greeting: (name) => `Guten Tag ${name},`,
    text: `${firm} hat eine digitale Visitenkarte für Sie angelegt. Melden Sie sich an, um sie zu sehen, Ihr Foto zu ergänzen und sie mit ihrem Code weiterzugeben.`,
    word: 'Visitenkarte ansehen',
    once: 'Der Link gilt eine Woche und funktioniert einmal.',
    not: `Falls das nicht für Sie bestimmt ist, beachten Sie es nicht, oder sagen Sie es ${firm}.`,
  }),
  fr: (firm) => ({
    subject: `${firm} : votre carte de visite numérique`,
    again: `${firm} : votre carte vous attend`,
    greeting: (name) => `Bonjour ${name},`,
    text: `${firm} a créé une carte de visite numérique pour vous. Connectez-vous pour la voir, ajouter votre photo et la transmettre avec son code.`,
    word: 'Voir votre carte',
    once: 'Le lien est valable une semaine et ne sert qu’une fois.',
    not: `Si ce message ne vous concerne pas, n’en tenez pas compte ou prévenez ${firm}.`,
  }),
  es: (firm) => ({
    subject: `${firm}: su tarjeta de visita digital`,
    again: `${firm}: su tarjeta le espera`,
    greeting: (name) => `Hola, ${name}:`,
    text: `${firm} ha creado una tarjeta de visita digital para usted. Inicie sesión para verla, añadir su foto y entregarla con su código.`,
    word: 'Ver su tarjeta',
    once: 'El enlace es válido durante una semana y funciona una vez.',
    not: `Si este mensaje no es para usted, ignórelo o avise a ${firm}.`,
  }),
  it: (firm) => ({
    subject: `${firm}: il suo biglietto da visita digitale`,
    again: `${firm}: il suo biglietto la aspetta`,
    greeting: (name) => `Buongiorno ${name},`,
    text: `${firm} ha creato per lei un biglietto da visita digitale. Acceda per vederlo, aggiungere la sua foto e consegnarlo con il suo codice.`,
    word: 'Vedere il biglietto',
    once: 'Il link vale una settimana e funziona una volta.',
    not: `Se il messaggio non è per lei, lo ignori o avvisi ${firm}.`,
  }),
  nl: (firm) => ({
    subject: `${firm}: uw digitale visitekaartje`,
    again: `${firm}: uw visitekaartje wacht op u`,
    greeting: (name) => `Dag ${name},`,
    text: `${firm} heeft een digitaal visitekaartje voor u gemaakt. Meld u aan om het te bekijken, uw foto toe te voegen en het met de code door te geven.`,
    word: 'Uw kaartje bekijken',
    once: 'De link is een week geldig en werkt één keer.',
    not: `Is dit niet voor u bestemd, doe dan niets of laat het ${firm} weten.`,
  }),
  pl: (firm) => ({
    subject: `${firm}: Twoja cyfrowa wizytówka`,
    again: `${firm}: Twoja wizytówka czeka`,
    greeting: (name) => `Dzień dobry, ${name},`,
    text: `${firm} przygotowała dla Ciebie cyfrową wizytówkę. Zaloguj się, aby ją zobaczyć, dodać zdjęcie i przekazać ją za pomocą kodu.`,
    word: 'Zobacz wizytówkę',
    once: 'Link jest ważny przez tydzień i działa jeden raz.',
    not: `Jeśli to nie jest wiadomość dla Ciebie, zignoruj ją lub powiadom ${firm}.`,
  }),
};

/** A name that mail programs would make a link of, or that is a whole sentence, stands in no letter to an address that nobody has confirmed. */
const isName = (text: string): boolean => text.length <= 60 && !/:\/\/|www\.|[\p{L}\d]\.\p{L}{2,}|@/iu.test(text);

/** The letter by which somebody is welcomed, or reminded, in their language; English where there is none of theirs. */
export function welcomeLetter(
  language: string,
  { firm, name, address, again }: { firm: string; name: string; address: string; again: boolean },
) {
  const own = WELCOME_LANGUAGES.find((each) => each === language.split('-')[0]) ?? 'en';
  const said = SAID[own](isName(firm) ? firm : 'Heathland');
  return {
    language: own,
    subject: again ? said.again : said.subject,
    greeting: said.greeting(isName(name) ? name : ''),
    paragraphs: [said.text],
    act: { word: said.word, address },
    below: [said.once, said.not],
    signed: isName(firm) ? firm : 'Heathland',
  };
}

/** Invitations, and the first screen of whoever took one. */
export const INVITE = {
  act: 'Invite …',
  title: (count: number) => plural(count, { one: 'Invite # person', other: 'Invite # people' }),
  text: 'Each gets a welcome by mail, in the language of their card, with a link that works once within a week. They sign in as holders: they see their own card, and change what is theirs.',
  reminder: 'Whoever has not come after four days is reminded once.',
  ask: (count: number) => plural(count, { one: 'Send the invitation', other: 'Send # invitations' }),
  invited: (count: number) => plural(count, { one: '# person was invited.', other: '# people were invited.' }),
  left: (count: number) => plural(count, { one: '# person was not invited', other: '# people were not invited' }),
  state: {
    sent: (when: string) => `invited ${when}`,
    again: (when: string, times: number) =>
      `invited ${when}, ${times === 2 ? 'twice' : plural(times, { one: 'once', other: '# times' })}`,
    reminded: (when: string) => `reminded ${when}`,
    undelivered: 'mail could not be delivered',
    expired: 'invitation expired',
    withdrawn: 'invitation withdrawn',
  },
  sendAgain: 'Send again',
  withdraw: 'Withdraw',
  of: (name: string) => ` to ${name}`,
  welcome: (firm: string) => `Welcome to ${firm}`,
  welcomeText: (name: string) => `${name}, your card is ready.`,
  password: 'Choose a password',
  passwordNote: 'Or leave it empty: each time you sign in, a code is sent to this address.',
  enter: 'See my card',
  code: {
    instead: 'Send me a code by mail instead',
    sent: 'If this address has an account, a code of six digits is on its way. It holds for ten minutes.',
    field: 'Code from the mail',
    withPassword: 'Sign in with a password instead',
    send: 'Send the code',
  },
  mine: {
    title: 'My card',
    show: 'Let others scan this code; it opens your card.',
    draft: 'Your card is not published yet. Look at it and publish it: then it has a code.',
    open: 'Look at the card',
    edit: 'My details',
    card: 'What the card shows',
    handOver: 'Hand over',
    asked: 'What is still missing',
    ask: { photo: 'A photo of you', mobile: 'Your mobile number' },
    add: 'Add it',
    nothing: 'Nothing is missing.',
  },
};

/** The letter with a code to sign in by. */
export const codeLetter = (name: string, code: string) => ({
  subject: `${code} is your code`,
  greeting: `Hello ${name},`,
  paragraphs: [
    `the code to sign in with is ${code}.`,
    'It holds for ten minutes, and works once. Nobody of ours asks you for it.',
  ],
  act: null,
  below: ['If you did not want to sign in, leave it: without the code nothing happens.'],
  signed: 'Heathland',
});
