import { yukkuri } from './program.js';

interface Proved {
  promised: number;
  achieved: number;
  kept: boolean;
  reasons: string[];
}

export interface MendOutput {
  fixes: { id: string }[];
  left: { fix: string; why: string }[];
  edited: string[];
  elsewhere: { fix: string; title: string; files: string[] }[];
  files: { name: string; bytes: number; promised: number; problem: string | null }[];
  proof: {
    average: Proved;
    screens: Record<string, Proved>;
    fixes: Record<string, Proved>;
    findings: { went: number; stayed: number };
    layout: { changes: unknown[]; problems: unknown[]; pages: number };
    lost: unknown[];
    later: { url: string; screen: string; bytes: number }[];
    kept: boolean;
  } | null;
}

/** Two screens are enough to see whether promises are kept. */
export const mendScreens = [
  '--screen',
  'phone=400x800@2,touch,share=0.6',
  '--screen',
  'desk=1200x800@1,share=0.4',
];

/** Mends a folder on two screens, and gives what was done and proved. */
export const mendJson = async (
  ...args: string[]
): Promise<{ code: number | undefined; out: MendOutput; err: string }> => {
  const { code, out, err } = await yukkuri(['mend', ...args, ...mendScreens, '--json']);
  return { code, out: JSON.parse(out) as MendOutput, err };
};
