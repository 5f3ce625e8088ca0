/** The version of this program, as its package has it. */
export const VERSION = '0.1.0';
