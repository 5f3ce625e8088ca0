/** What would clean up a file as it is, part by part, with reasons and figures. */
export * from './suggestFile';
