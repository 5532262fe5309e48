package app.schublade.core.format;

/**
 * A file that was no part of its own: written into a text, or into a wrapper.
 *
 * @param name as it was given; perhaps empty, perhaps with a path
 */
@SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
record ExtractedFile(String name, byte[] content) {}
