package app.schublade.mail;

import java.util.Set;

/**
 * That a message is there, and how it is marked.
 *
 * @param keywords in lower case
 */
public record Sighting(
        long uid, boolean seen, boolean flagged, boolean answered, boolean deleted, Set<String> keywords) {}
