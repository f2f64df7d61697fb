import type { AsymmetryAtSpeed } from '../candidate';
import { DEG } from '../numerics';
import { quantitiesOf } from './quantity';

/** What unequal halves do in level flight. */
export const ASYMMETRY_QUANTITIES = quantitiesOf<AsymmetryAtSpeed>([
  {
    id: 'asymmetry.rollRate',
    symbol: 'p',
    name: 'roll rate, controls fixed',
    says: 'steady, of unequal halves; right wing down positive',
    formula: 'p = −(2V/b) ΔCl/Cl_p',
    dimension: 'plain',
    digits: 1,
    per: '°/s',
    of: (a) => (a.rollRate === null ? null : a.rollRate * DEG),
  },
  {
    id: 'asymmetry.rollingMoment',
    symbol: 'L',
    name: 'rolling moment, asymmetry',
    says: 'of unequal halves, body axes; right wing down positive',
    dimension: 'moment',
    digits: 2,
    of: (a) => a.rollMoment,
  },
  {
    id: 'asymmetry.yawingMoment',
    symbol: 'N',
    name: 'yawing moment, asymmetry',
    says: 'of unequal halves, body axes; nose right positive',
    dimension: 'moment',
    digits: 2,
    of: (a) => a.yawMoment,
  },
  {
    id: 'asymmetry.sideslip',
    symbol: 'β',
    name: 'sideslip, asymmetry held',
    says: 'of straight flight that is held against unequal halves',
    dimension: 'angle',
    digits: 1,
    of: (a) => a.held && a.held.sideslip * DEG,
  },
  {
    id: 'asymmetry.bank',
    symbol: 'φ',
    name: 'bank, asymmetry held',
    says: 'of straight flight that is held against unequal halves',
    dimension: 'angle',
    digits: 1,
    of: (a) => a.held && a.held.bank * DEG,
  },
  {
    id: 'asymmetry.leastTravelLeft',
    symbol: 'left',
    name: 'least remaining travel, asymmetry held',
    says: 'of the controls that hold straight flight against unequal halves; negative beyond a limit',
    dimension: 'ratio',
    digits: 0,
    of: (a) => {
      const left = (a.held?.controls ?? []).flatMap((c) => (c.left === null ? [] : [c.left]));
      return left.length > 0 ? Math.min(...left) : null;
    },
  },
]);
