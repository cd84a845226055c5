/**
 * The header by which a command carries an id that its client made: the same id again is the same command, and what a
 * command makes (an item, a link, a trial …) has that id.
 */
export const COMMAND_ID = 'command-id';
