export { withPadding } from './padding';
export { checkBank, checkBankHead, type BankContents, type BankError, type BankErrorCode } from './checkBank';
