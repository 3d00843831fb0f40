/** The tag under which an app writes to the device's log what only it knows: docs/drills.md. */
export const LOG_TAG = 'Fenlok';
