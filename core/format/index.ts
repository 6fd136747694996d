export {
  fieldIssues, forbiddenKey, readRigData, readRigFile, rigDocumentSchema, rigFileJsonSchema, rigFileLimit, rigFileMark, rigFileVersion, wordFileIssue, writeRigFile,
  type FileIssue, type ReadRigFile, type RigDocument,
} from './rig-file.ts';
