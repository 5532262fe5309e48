package app.schublade.core.message;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What stays the same in the subjects of one kind of message: the subject without reply prefixes, list tags, numbers
 * and dates. {@code "Re: [rowers] Booking 48213 for 12 Nov 2026"} has the stem {@code "Booking for"}.
 */
public final class SubjectStem {
    private static final Pattern PREFIX = Pattern.compile(
            "^\\s*(?:(?:re|fwd?|aw|wg|sv|vs|antw|tr|rif)\\s*(?:\\[\\d+])?\\s*:|\\[[^\\]]{1,60}])\\s*",
            Pattern.CASE_INSENSITIVE);
    private static final Pattern ANSWER = Pattern.compile(
            "^\\s*(?:\\[[^\\]]{1,60}]\\s*){0,3}(?:re|aw|sv|vs|antw|rif)\\s*(?:\\[\\d+])?\\s*:",
            Pattern.CASE_INSENSITIVE);
    private static final Pattern EDGE = Pattern.compile("^[^\\p{L}]+|[^\\p{L}]+$");
    private static final Set<String> DATE_WORDS = Set.of(
            "jan",
            "january",
            "feb",
            "february",
            "mar",
            "march",
            "apr",
            "april",
            "may",
            "jun",
            "june",
            "jul",
            "july",
            "aug",
            "august",
            "sep",
            "sept",
            "september",
            "oct",
            "october",
            "nov",
            "november",
            "dec",
            "december",
            "mon",
            "monday",
            "tue",
            "tuesday",
            "wed",
            "wednesday",
            "thu",
            "thursday",
            "fri",
            "friday",
            "sat",
            "saturday",
            "sun",
            "sunday");

    private SubjectStem() {}

    /** The stem, empty where nothing but numbers and dates is left. */
    public static String of(String subject) {
        String bare = withoutPrefixes(subject);
        List<String> kept = new ArrayList<>();
        for (String word : bare.split("\\s+", -1)) {
            if (isTelling(word)) {
                kept.add(EDGE.matcher(word).replaceAll(""));
            }
        }
        return String.join(" ", kept);
    }

    /** The subject without any run of reply and forward prefixes and list tags before it. */
    public static String withoutPrefixes(String subject) {
        Matcher prefix = PREFIX.matcher(subject);
        int begin = 0;
        while (prefix.region(begin, subject.length()).lookingAt()) {
            begin = prefix.end();
        }
        return subject.substring(begin).strip();
    }

    /** Whether the subject says that the message answers another one. */
    public static boolean isAnswer(String subject) {
        return ANSWER.matcher(subject).find();
    }

    private static boolean isTelling(String word) {
        String letters = EDGE.matcher(word).replaceAll("").toLowerCase(Locale.ROOT);
        return !letters.isEmpty() && word.chars().noneMatch(Character::isDigit) && !DATE_WORDS.contains(letters);
    }
}
