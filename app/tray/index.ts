// What other areas may use of this one.
export { MOST_ON_TRAY, addedWords, useTray } from './tray'
