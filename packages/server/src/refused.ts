/** Something asked for on the command line that cannot be done, said in words. */
export class Refused extends Error {
  override readonly name = 'Refused';
}
