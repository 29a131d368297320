export { renderPart as default } from '../bounce/part'
