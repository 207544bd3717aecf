/** Why a submission looks like a robot's: it filled the field no person sees, or was faster than a person types. */
export type Suspicion = 'trap filled' | 'too fast';

export interface ScreeningRules {
  /** Seconds between seeing the form and sending it below which nobody has typed. 0 switches the check off. */
  minimumSeconds: number;
}

/**
 * @param trap what arrived in the field hidden from people
 * @param elapsedSeconds time from showing to sending; null when the page could not tell (no script), which is no ground
 * for suspicion
 */
export function screen(rules: ScreeningRules, trap: string, elapsedSeconds: number | null): Suspicion | null {
  if (trap !== '') return 'trap filled';
  if (elapsedSeconds !== null && elapsedSeconds < rules.minimumSeconds) return 'too fast';
  return null;
}
