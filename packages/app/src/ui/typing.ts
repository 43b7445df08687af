/** Where somebody types: keys are left to it. */
export const TYPING = 'input, textarea, [contenteditable]';
