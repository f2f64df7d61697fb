const format = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** An instant of the server's in words. @param iso as it tells it. */
export const when = (iso: string): string => format.format(new Date(iso));
