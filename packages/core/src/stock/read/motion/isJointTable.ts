export const JOINT_COLUMNS = ['time', 'performer', 'joint', 'x', 'y', 'z'] as const;

/** Bytes of a table by which it is told whether it is one of joints. */
export const JOINT_TABLE_HEAD = 4096;

/** Whether a table is one of joints: its first row names them. */
export function isJointTable(text: string): boolean {
  const [first = ''] = text.trimStart().split(/\r\n|\r|\n/, 1);
  const names = first.split(',').map((f) => f.trim().toLowerCase());
  return JOINT_COLUMNS.every((c) => names.includes(c));
}
