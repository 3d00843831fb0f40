/** `fenlok/node`: files, dossiers, reports on disk. */

export { addCapture } from './captures.ts';
export { decodeImage } from './decode-image.ts';
export {
  addCatalogue,
  addFile,
  addPackage,
  addTrace,
  type Dossier,
  openDossier,
  type Taken,
} from './dossier.ts';
export { defineExtension, type Extension, type ReportFormat } from './extensions.ts';
export { type JudgeCandidateOptions, judgeCandidate } from './judge-candidate.ts';
export { type JudgeOptions, judgeDossier } from './judge-dossier.ts';
export { mergeDossier } from './merge-dossiers.ts';
export { factsOfPackageFile, observeDossier } from './observe.ts';
export { addPayload } from './payloads.ts';
export { nodePorts, withFile } from './ports.ts';
export { type Project, readProject } from './project.ts';
export { type GatewayFile, readGatewayFile } from './push/gateway-file.ts';
export {
  GatewayOutOfReach,
  type PushAnswered,
  type PushSender,
  type PushToSend,
  pushSender,
} from './push/send-push.ts';
export { senderFor } from './push/sender-for.ts';
export { withPackage } from './read-package.ts';
export { addSiteFile, openSiteFile } from './site-files.ts';
export { type WrittenReports, writeReports } from './write-reports.ts';
export { writeRulings, writeSignOff } from './write-rulings.ts';
