export { ManyFiles } from './ManyFiles';
