import { hostOf, purposeOf } from '@/core/record/purpose';
import type { Purpose, Use } from '@/core/record/kinds';
import type { Detail } from '@/core/record/record';
import type { Language } from './language';

/** One text in every language. A native reader should check: all of German and Arabic, both written from memory. */
export type Text = Record<Language, string>;

/** All that Heathland itself says on a card's page. What people typed is never translated. */
export const RECIPIENT_TEXTS = {
  save: { en: 'Save contact', de: 'Kontakt speichern', ar: 'حفظ جهة الاتصال' },
  call: { en: 'Call', de: 'Anrufen', ar: 'اتصال' },
  text: { en: 'Text', de: 'Nachricht', ar: 'رسالة نصية' },
  write: { en: 'Write', de: 'Schreiben', ar: 'مراسلة' },
  chat: { en: 'Chat', de: 'Chat', ar: 'محادثة' },
  map: { en: 'Map', de: 'Karte', ar: 'خريطة' },
  booking: { en: 'Book', de: 'Termin', ar: 'حجز' },
  about: { en: 'About', de: 'Über', ar: 'نبذة' },
  gallery: { en: 'Pictures', de: 'Bilder', ar: 'صور' },
  video: { en: 'Video', de: 'Video', ar: 'فيديو' },
  'onward links': { en: 'More', de: 'Mehr', ar: 'المزيد' },
  hours: { en: 'Hours', de: 'Öffnungszeiten', ar: 'ساعات العمل' },
  credentials: { en: 'Credentials', de: 'Qualifikationen', ar: 'المؤهلات' },
  products: { en: 'Products', de: 'Produkte', ar: 'المنتجات' },
  offices: { en: 'Offices', de: 'Standorte', ar: 'المكاتب' },
  openUntil: { en: 'Open until', de: 'Geöffnet bis', ar: 'مفتوح حتى' },
  closedUntil: { en: 'Closed until', de: 'Geschlossen bis', ar: 'مغلق حتى' },
  closed: { en: 'Closed', de: 'Geschlossen', ar: 'مغلق' },
  playAt: { en: 'Play at', de: 'Abspielen bei', ar: 'تشغيل على' },
  captions: { en: 'Captions', de: 'Untertitel', ar: 'ترجمة' },
  languages: { en: 'Language', de: 'Sprache', ar: 'اللغة' },
  imprint: { en: 'Imprint', de: 'Impressum', ar: 'بيانات الناشر' },
  privacy: { en: 'Privacy', de: 'Datenschutz', ar: 'الخصوصية' },
  accessibility: { en: 'Accessibility', de: 'Barrierefreiheit', ar: 'إمكانية الوصول' },
  actions: { en: 'Actions', de: 'Aktionen', ar: 'إجراءات' },
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
  hours: { en: 'Hours', de: 'Öffnungszeiten', ar: 'ساعات العمل' },
  photo: { en: 'Photo', de: 'Foto', ar: 'الصورة' },
  logo: { en: 'Logo', de: 'Logo', ar: 'الشعار' },
  own: { en: 'Own', de: 'Eigenes', ar: 'أخرى' },
};
const PURPOSE_WORDS: Partial<Record<Purpose, Text>> = {
  booking: { en: 'Booking', de: 'Termin buchen', ar: 'حجز موعد' },
  payment: { en: 'Payment', de: 'Zahlung', ar: 'الدفع' },
  map: { en: 'Map', de: 'Karte', ar: 'خريطة' },
  catalogue: { en: 'Catalogue', de: 'Katalog', ar: 'الكتالوج' },
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

/**
 * The label of a detail in its kind's and uses' own words: "Mobile, work", "Telefon, privat". A link to a profile or a chat is
 * labelled by its host: no service is known by name.
 */
export function labelIn(language: Language, detail: Detail): string {
  if (detail.kind === 'link' && detail.uses.length === 0) {
    const purpose = purposeOf(detail);
    if (purpose === 'profile' || purpose === 'chat') return hostOf(detail.url) || KINDS.link[language];
    return (PURPOSE_WORDS[purpose] ?? KINDS.link)[language];
  }
  const uses = 'uses' in detail ? detail.uses.filter((use) => use !== 'text') : [];
  const device = detail.kind === 'phone' ? uses.find((use) => use !== 'work' && use !== 'home') : undefined;
  const first = device ? USES[device][language] : KINDS[detail.kind][language];
  const others = uses.filter((use) => use !== device).map((use) => USES[use][language]);
  const joint = language === 'ar' ? '، ' : ', ';
  return [first.charAt(0).toUpperCase() + first.slice(1), ...others].join(joint);
}
