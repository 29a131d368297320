/** The letters of the pads of a bank, on the two lower letter rows. */
export const PAD_LETTERS = ['A', 'S', 'D', 'F', 'G', 'H', 'J', 'K', 'Z', 'X', 'C', 'V', 'B', 'N', 'M', ',']
