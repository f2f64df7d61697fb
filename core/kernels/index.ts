export { factorise } from './lu';
export { assemble, induce } from './horseshoe';
export { respond, assembleCoupled, multiply, solveFactorised } from './coupled';
