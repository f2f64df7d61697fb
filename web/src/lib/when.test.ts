import { DATE_STYLES, showDatesBy, usualDates, when, type DateStyle } from './when';

afterEach(() => showDatesBy(() => 'en-GB'));

describe('dates', () => {
  it('are written as is chosen, from then on', () => {
    let style: DateStyle = 'en-GB';
    showDatesBy(() => style);
    const written = () => when('2026-12-01T12:05:00').replace(/\s+/g, ' ');
    expect(written()).toBe('1 Dec 2026, 12:05');
    style = 'en-US';
    expect(written()).toBe('Dec 1, 2026, 12:05 PM');
    style = 'sv-SE';
    expect(written()).toBe('2026-12-01 12:05');
    style = 'de-DE';
    expect(written()).toBe('01.12.2026, 12:05');
  });
  it('begin as is usual for the language of the browser', () => {
    expect(usualDates('en-US')).toBe('en-US');
    expect(usualDates('en-ZA')).toBe('en-GB');
    expect(usualDates('de-AT')).toBe('de-DE');
    expect(usualDates('sv')).toBe('sv-SE');
    expect(usualDates('fr-FR')).toBe('en-GB');
    expect(new Set(DATE_STYLES.map((s) => s.id)).size).toBe(DATE_STYLES.length);
  });
});
