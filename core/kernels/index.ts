export { factorise } from './lu';
export { assemble, induce } from './horseshoe';
export { respond, assembleCoupled, multiply, solveFactorised } from './coupled';
export { multiplySingle } from './single';
export { recordStations, intervals } from './layers';
export { factoriseSingle, solveSingle, restOf, addAll } from './lu-single';
