import type { SectionPolar } from './section-polar';
import { FLAP_STEP, sectionKey, type StripShare } from './strip-sections';

/** A polar that a share of a strip can be read from. */
export interface UsablePolar {
  polar: SectionPolar;
  /** Angle of the flap that it is of, degrees, where it stands in for another that has none. */
  insteadDeg?: number;
}

/** The polar of a share; where its flap's has no curve, that of the nearest angle toward zero. @returns null where there is none at all. */
export function usablePolar(polars: ReadonlyMap<string, SectionPolar>, share: StripShare): UsablePolar | null {
  const at = (flap: StripShare['flap']) => {
    const polar = polars.get(sectionKey({ section: share.section, flap }));
    return polar && !polar.empty ? polar : null;
  };
  const own = at(share.flap);
  if (own || !share.flap) return own && { polar: own };
  const { hinge, angleDeg } = share.flap;
  const way = Math.sign(angleDeg);
  for (let size = Math.abs(angleDeg) - FLAP_STEP; size > -FLAP_STEP; size -= FLAP_STEP) {
    const insteadDeg = way * Math.max(0, size);
    const polar = at(insteadDeg === 0 ? null : { hinge, angleDeg: insteadDeg });
    if (polar) return { polar, insteadDeg };
  }
  return null;
}
