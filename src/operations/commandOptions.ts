/** What the value of a command-line option is; read and checked by the command line. */
export type OptionValue =
  | { is: 'flag' }
  | { is: 'text' }
  | { is: 'number'; least: number; most: number; whole?: boolean }
  | { is: 'numbers'; count: number }
  | { is: 'ratio' }
  | { is: 'shift' }
  | { is: 'choice'; of: readonly string[] }
  /** A greyscale picture of the photo's size, as a mark. */
  | { is: 'mask'; name: string }
  /** A file with JSON. */
  | { is: 'json' }
  /** "auto", or another value. */
  | { is: 'auto'; or: OptionValue }
  | { is: 'file' };

export interface CommandOption {
  /** "--by <dx,dy>". */
  flags: string;
  about: string;
  value: OptionValue;
  required?: boolean;
  default?: unknown;
}
