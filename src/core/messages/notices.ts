import type { Language } from './language';
import type { Text } from './recipient';

/** What stands in for a card: nothing here, resting, retired, out of reach for the moment. */
export const NOTICE_TEXTS = {
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
  restingInstead: { en: 'Please see instead:', de: 'Bitte stattdessen:', ar: 'يرجى الاطلاع على:' },
  retiredTitle: {
    en: 'This card is no longer in use',
    de: 'Diese Karte gilt nicht mehr',
    ar: 'هذه البطاقة لم تعد مستخدمة',
  },
  retiredText: {
    en: 'Its owner has taken it back.',
    de: 'Sie wurde zurückgezogen.',
    ar: 'سحبها صاحبها.',
  },
  deletedTitle: { en: 'This card was taken away', de: 'Diese Karte wurde entfernt', ar: 'أُزيلت هذه البطاقة' },
  deletedText: {
    en: 'Its owner does not give it out any more. Nobody else gets this address.',
    de: 'Sie wird nicht mehr ausgegeben. Niemand sonst bekommt diese Adresse.',
    ar: 'لم يعد صاحبها يقدمها. ولن يحصل أحد غيره على هذا العنوان.',
  },
  previewTitle: { en: 'Preview', de: 'Vorschau', ar: 'معاينة' },
  previewGoneTitle: {
    en: 'This preview has expired',
    de: 'Diese Vorschau ist abgelaufen',
    ar: 'انتهت صلاحية هذه المعاينة',
  },
  previewGoneText: {
    en: 'Ask the person who gave it to you for the card itself.',
    de: 'Fragen Sie die Person, von der Sie sie haben, nach der Karte selbst.',
    ar: 'اطلب البطاقة نفسها من الشخص الذي أعطاك إياها.',
  },
  awayTitle: { en: 'One moment', de: 'Einen Moment', ar: 'لحظة واحدة' },
  awayText: {
    en: 'The card cannot be reached just now. Try again in a few seconds.',
    de: 'Die Karte ist gerade nicht erreichbar. Versuchen Sie es in einigen Sekunden noch einmal.',
    ar: 'لا يمكن الوصول إلى البطاقة الآن. حاول مرة أخرى بعد بضع ثوانٍ.',
  },
} as const satisfies Record<string, Text>;

export type NoticeText = keyof typeof NOTICE_TEXTS;

export const sayNotice = (text: NoticeText, language: Language): string => NOTICE_TEXTS[text][language];
