/** The clean-up operations: one file a kind, and the registry that knows them all. */
export * from './where';
export * from './stepKind';
export * from './registry';
export { createPull, gridsOf, type QuantizeStep, type Pull } from './quantize';
export { noteValueSchema } from './settings';
