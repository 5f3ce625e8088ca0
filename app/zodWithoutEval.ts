import { config } from 'zod';

// Zod finds out whether it may compile its checks by trying to, which the page's security policy reports at every
// load. Imported before anything that makes a schema.
config({ jitless: true });
