import { describe, expect, it } from '@jest/globals';
import { methodFindings, findingWords } from '../findings';
import { polarsBesideLattice, type AirframeMotion } from '.';

const flight = (more: { staticMargin?: number; CD?: number; damping?: number } = {}) =>
  ({
    staticMargin: more.staticMargin ?? 0.15,
    derivatives: { CL_alpha: 5 },
    trim: { alpha: 0.05, CD: more.CD ?? 0.03 },
    modes: [
      { name: 'short period', frequencyHz: 1.2, dampingRatio: 0.6 },
      ...(more.damping === undefined ? [] : [{ name: 'phugoid', frequencyHz: 0.1, dampingRatio: more.damping }]),
    ],
  }) as unknown as AirframeMotion;

describe('quantities by two methods', () => {
  it('agree within their bands, and are no finding then', () => {
    const pairs = polarsBesideLattice(
      flight({ damping: 0.05 }),
      flight({ staticMargin: 0.17, CD: 0.034, damping: 0.055 }),
    );
    expect(pairs.map((p) => p.quantity)).toEqual([
      'static-margin',
      'lift-slope',
      'trim-angle',
      'drag',
      'short-period',
      'phugoid-damping',
    ]);
    expect(pairs.every((p) => p.agree)).toBe(true);
    expect(methodFindings(pairs)).toEqual([]);
  });

  it('are told with both figures and both methods where they differ by more', () => {
    const pairs = polarsBesideLattice(flight(), flight({ staticMargin: 0.11, CD: 0.05, damping: 0.1 }));
    expect(pairs.filter((p) => !p.agree).map((p) => p.quantity)).toEqual(['static-margin', 'drag']);
    const [finding] = methodFindings(pairs);
    const { headline, detail } = findingWords(finding);
    expect(headline).toBe('Methods disagree');
    expect(detail).toContain('static margin 15.0 % by section polars, 11.0 % by inviscid lattice');
    expect(detail).toContain('drag coefficient 0.03000 by section polars, 0.05000 by drag build-up');
  });
});
