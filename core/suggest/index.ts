/** What would clean up a session or a file as it is, part by part, with reasons and figures. */
export * from './cleanMusic';
export * from './openSession';
export * from './suggestFile';
export * from './suggestSession';
