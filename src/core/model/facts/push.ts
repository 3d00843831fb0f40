/** Facts of push messages: what a package declares, what the team sends, what a device did. */
import type { PushPayload } from '../push-payload.ts';
import type { OfCapture, OfPackage } from './base.ts';

/** A push message from a file of the team. */
export interface PayloadFact extends OfPackage {
  kind: 'payload';
  /** Of its file. */
  name: string;
  payload: PushPayload;
}

/** What a package declares for push messages. */
export interface PushSetupFact extends OfPackage {
  kind: 'push-setup';
  /** Android: `POST_NOTIFICATIONS`; iOS: signed for an environment. */
  isDeclared: boolean;
  /** Services that messages are handed to (Android). */
  services: string[];
  /** A default small icon is named (Android). */
  hasIcon: boolean;
  /** Background mode `remote-notification` (iOS). */
  wakesInBackground: boolean;
}

/** The question for the permission, with the answer that a drill gave. */
export interface PushPermissionFact extends OfCapture {
  kind: 'push-permission';
  at: string;
  deviceId: string;
  asked: boolean;
  answer: 'allow' | 'refuse';
  /** Undefined where nothing reads it. */
  granted?: boolean;
  /** Messages that were shown although it was refused. */
  shown: number;
  crash?: { exception: string; message: string; frame: string };
}

/** A token as a device got it, and what was answered to messages for it. */
export interface PushTokenFact extends OfCapture {
  kind: 'push-token';
  at: string;
  deviceId: string;
  /** Undefined where the app told of none. */
  token?: { bytes: number; isHex: boolean; digest: string };
  /** Who was asked to send: iOS's gateway, or Android's messaging service, whose environments are projects. */
  service: 'gateway' | 'messages';
  /** What was answered at first in each environment. */
  answers: { environment: 'production' | 'development'; status: number; reason?: string }[];
  /** After the app was removed and installed again. */
  reinstalled?: { isRenewed: boolean; isToken: boolean; oldStatus: number };
}

/** The channels that an app made, started again in one of its languages. */
export interface PushChannelsFact extends OfCapture {
  kind: 'push-channels';
  at: string;
  deviceId: string;
  locale: string;
  channels: { id: string; name: string }[];
}

/** One message sent to a device in one state, and what was done with it. */
export interface PushRunFact extends OfCapture {
  kind: 'push-run';
  at: string;
  deviceId: string;
  message: string;
  state: 'front' | 'background' | 'not-running';
  status: number;
  reason?: string;
  shown?: { channel: string; title: string; text: string; actions: string[] };
  /** The app told its log that it got it. */
  told: boolean;
  tapped: boolean;
  /** Label of the button that was touched, in the place of the message. */
  action?: string;
  landed: string;
  inApp: boolean;
  /** Where nothing names a screen: how like it is to each that was looked at before, by their ids. */
  like?: Record<string, number>;
  /** The first text there, where nothing names the screen. */
  title?: string;
  /** It sets the number on the icon. */
  counts?: true;
  /** The number on the icon, once it was opened; undefined where none was ever seen there. */
  badge?: number;
  /** Messages of the app that are left in the shade afterwards. */
  left: number;
  crash?: { exception: string; message: string; frame: string };
}
