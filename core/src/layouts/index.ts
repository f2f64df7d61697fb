export * from './analysis';
export { startingLayout, type StartingLayout } from './balanced';
export * from './document';
export { layoutPicture, projectPicture, type PictureLine } from './picture';
export { LAYOUTS, layoutOf, type LayoutPlan } from './plans';
export { layoutSizes, type LayoutNumbers, type LayoutSizes } from './sizes';
