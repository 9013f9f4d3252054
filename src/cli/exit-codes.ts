/** 0 done, nothing over a limit; 1 done, something over a limit the user set; 2 wrong use; 3 could not finish; 130 interrupted. */
export const exitCodes = { done: 0, overLimit: 1, wrongUse: 2, notFinished: 3, interrupted: 130 } as const;

export type ExitCode = (typeof exitCodes)[keyof typeof exitCodes];
