export { factorise } from './lu';
export { assemble, induce } from './horseshoe';
