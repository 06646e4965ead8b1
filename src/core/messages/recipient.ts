import type { Detail, Use } from '@/core/record/record';
import type { Language } from './language';

/** One text in every language. A native reader should check: all of German and Arabic, both written from memory. */
type Text = Record<Language, string>;

/** All that Heathland itself says to a recipient. What people typed is never translated. */
export const RECIPIENT_TEXTS = {
  save: { en: 'Save contact', de: 'Kontakt speichern', ar: 'حفظ جهة الاتصال' },
  call: { en: 'Call', de: 'Anrufen', ar: 'اتصال' },
  write: { en: 'Write', de: 'Schreiben', ar: 'مراسلة' },
  actions: { en: 'Actions', de: 'Aktionen', ar: 'إجراءات' },
  notFoundTitle: { en: 'No card here', de: 'Hier ist keine Karte', ar: 'لا توجد بطاقة هنا' },
  notFoundText: {
    en: 'Check the address for a slip. If it came from a printed code, ask the person who gave it to you.',
    de: 'Prüfen Sie die Adresse auf einen Tippfehler. Kam sie von einem gedruckten Code, fragen Sie die Person, von der Sie ihn haben.',
    ar: 'تحقق من العنوان. إذا جاء من رمز مطبوع، فاسأل الشخص الذي أعطاك إياه.',
  },
  restingTitle: { en: 'This card is resting', de: 'Diese Karte ruht', ar: 'هذه البطاقة متوقفة مؤقتًا' },
  restingText: {
    en: 'Its owner has taken it back for now.',
    de: 'Sie wurde vorerst zurückgenommen.',
    ar: 'سحبها صاحبها في الوقت الحالي.',
  },
  awayTitle: { en: 'One moment', de: 'Einen Moment', ar: 'لحظة واحدة' },
  awayText: {
    en: 'The card cannot be reached just now. Try again in a few seconds.',
    de: 'Die Karte ist gerade nicht erreichbar. Versuchen Sie es in einigen Sekunden noch einmal.',
    ar: 'لا يمكن الوصول إلى البطاقة الآن. حاول مرة أخرى بعد بضع ثوانٍ.',
  },
} as const satisfies Record<string, Text>;

export type RecipientText = keyof typeof RECIPIENT_TEXTS;

export const say = (text: RecipientText, language: Language): string => RECIPIENT_TEXTS[text][language];

const KINDS: Record<Detail['kind'], Text> = {
  phone: { en: 'Phone', de: 'Telefon', ar: 'هاتف' },
  email: { en: 'E-mail', de: 'E-Mail', ar: 'البريد الإلكتروني' },
  link: { en: 'Web', de: 'Web', ar: 'الموقع' },
  address: { en: 'Address', de: 'Adresse', ar: 'العنوان' },
  organisation: { en: 'Firm', de: 'Firma', ar: 'الشركة' },
  title: { en: 'Job title', de: 'Position', ar: 'المسمى الوظيفي' },
  role: { en: 'Role', de: 'Funktion', ar: 'الدور' },
  licence: { en: 'Licence', de: 'Zulassung', ar: 'الترخيص' },
  credential: { en: 'Credential', de: 'Qualifikation', ar: 'المؤهل' },
  pronouns: { en: 'Pronouns', de: 'Pronomen', ar: 'الضمائر' },
  nickname: { en: 'Known as', de: 'Rufname', ar: 'الاسم المعروف' },
  language: { en: 'Speaks', de: 'Spricht', ar: 'اللغات' },
  category: { en: 'Category', de: 'Kategorie', ar: 'الفئة' },
  note: { en: 'Note', de: 'Notiz', ar: 'ملاحظة' },
  birthday: { en: 'Birthday', de: 'Geburtstag', ar: 'تاريخ الميلاد' },
  photo: { en: 'Photo', de: 'Foto', ar: 'الصورة' },
  own: { en: 'Own', de: 'Eigenes', ar: 'أخرى' },
};
const USES: Record<Use, Text> = {
  mobile: { en: 'mobile', de: 'mobil', ar: 'جوال' },
  work: { en: 'work', de: 'Arbeit', ar: 'العمل' },
  home: { en: 'home', de: 'privat', ar: 'المنزل' },
  fax: { en: 'fax', de: 'Fax', ar: 'فاكس' },
  emergency: { en: 'emergency', de: 'Notfall', ar: 'الطوارئ' },
  text: { en: 'texts', de: 'Nachrichten', ar: 'رسائل نصية' },
  pager: { en: 'pager', de: 'Pager', ar: 'النداء الآلي' },
  video: { en: 'video', de: 'Video', ar: 'فيديو' },
};

/** The word for a kind of detail. */
export const kindIn = (language: Language, kind: Detail['kind']): string => KINDS[kind][language];

/** The word for a use. */
export const wordOfUse = (language: Language, use: Use): string => USES[use][language];

/** The label of a detail in its kind's and uses' own words: "Mobile, work", "Telefon, privat". */
export function labelIn(language: Language, detail: Detail): string {
  const uses = 'uses' in detail ? detail.uses.filter((use) => use !== 'text') : [];
  const device = detail.kind === 'phone' ? uses.find((use) => use !== 'work' && use !== 'home') : undefined;
  const first = device ? USES[device][language] : KINDS[detail.kind][language];
  const others = uses.filter((use) => use !== device).map((use) => USES[use][language]);
  const joint = language === 'ar' ? '، ' : ', ';
  return [first.charAt(0).toUpperCase() + first.slice(1), ...others].join(joint);
}
