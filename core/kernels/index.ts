export { factorise } from './lu';
export { assemble, induce } from './horseshoe';
export { extend, assembleCoupled, multiply, solveFactorised } from './coupled';
