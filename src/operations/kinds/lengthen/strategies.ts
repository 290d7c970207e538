/**
 * By length, the one whose joints match best first; in perspective where the thing shows any, but for one; and without
 * what lies around it in the mark, but for another.
 */
export const LENGTHS = ['in step', 'another length', 'a third length', 'a fourth length'] as const;
export const SAME_SIZE = 'one size throughout';
export const WITH_GROUND = 'with what lies around it';
export const CHOICES: readonly string[] = [...LENGTHS, SAME_SIZE, WITH_GROUND];
