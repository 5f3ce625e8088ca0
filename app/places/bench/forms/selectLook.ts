/** How selects look in the settings forms. */
export const SELECT =
  'h-6 rounded-medium border border-rule-strong bg-sheet px-1 text-work disabled:opacity-45';
