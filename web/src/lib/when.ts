/** Ways of writing a date, by the language that has it so. */
export const DATE_STYLES = [
  { id: 'en-GB', name: '1 Dec 2026, 14:05' },
  { id: 'en-US', name: 'Dec 1, 2026, 2:05 PM' },
  { id: 'sv-SE', name: '2026-12-01 14:05' },
  { id: 'de-DE', name: '01.12.2026, 14:05' },
] as const;
export type DateStyle = (typeof DATE_STYLES)[number]['id'];

/** The style that is usual where this browser is. */
export function usualDates(language = typeof navigator === 'undefined' ? 'en-GB' : navigator.language): DateStyle {
  const whole = DATE_STYLES.find((s) => s.id === language);
  if (whole) return whole.id;
  return DATE_STYLES.find((s) => !s.id.startsWith('en') && s.id.slice(0, 2) === language.slice(0, 2))?.id ?? 'en-GB';
}

const formats = new Map<DateStyle, Intl.DateTimeFormat>();
const formatOf = (style: DateStyle): Intl.DateTimeFormat => {
  let format = formats.get(style);
  if (!format) {
    // English words for months; the order and the marks are the language's.
    const dateStyle = style.startsWith('en') ? 'medium' : style === 'de-DE' ? undefined : 'short';
    const parts = { day: '2-digit', month: '2-digit', year: 'numeric', hour: '2-digit', minute: '2-digit' } as const;
    format = new Intl.DateTimeFormat(style, dateStyle ? { dateStyle, timeStyle: 'short' } : parts);
    formats.set(style, format);
  }
  return format;
};
let askStyle: () => DateStyle = () => 'en-GB';
/** Sets what says how dates are written; it is asked for every one. */
export function showDatesBy(style: () => DateStyle): void {
  askStyle = style;
}

/** An instant of the server's in words. @param iso as it tells it. */
export const when = (iso: string): string => formatOf(askStyle()).format(new Date(iso));
