package app.schublade.standin.world;

import java.math.BigDecimal;
import java.text.NumberFormat;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** How a language writes what is drawn: days, numbers, money; the line above a quotation, and the one before a name. */
public enum Language {
    EN("en-GB", "EEEE d MMMM", "d MMM", "d MMMM yyyy", "Re: ", "On %s %s wrote:", "Best wishes,"),
    DE("de-DE", "EEEE, d. MMMM", "d. MMM", "d. MMMM yyyy", "AW: ", "Am %s schrieb %s:", "Mit freundlichen Grüßen"),
    FR("fr-FR", "EEEE d MMMM", "d MMM", "d MMMM yyyy", "RE: ", "Le %s, %s a écrit :", "Cordialement,"),
    ES(
            "es-ES",
            "EEEE d 'de' MMMM",
            "d MMM",
            "d 'de' MMMM 'de' yyyy",
            "RE: ",
            "El %s, %s escribió:",
            "Un cordial saludo,"),
    NB("nb-NO", "EEEE d. MMMM", "d. MMM", "d. MMMM yyyy", "SV: ", "Den %s skrev %s:", "Vennlig hilsen"),
    EL("el-GR", "EEEE d MMMM", "d MMM", "d MMMM yyyy", "Απ: ", "Στις %s, %s έγραψε:", "Με εκτίμηση,"),
    JA("ja-JP", "M月d日（E）", "M月d日", "yyyy年M月d日", "Re: ", "%s %s wrote:", "敬具");

    private final Locale locale;
    private final DateTimeFormatter day;
    private final DateTimeFormatter shortDay;
    private final DateTimeFormatter dayOfYear;
    private final String answer;
    private final String attribution;
    private final String closing;

    Language(
            String tag,
            String day,
            String shortDay,
            String dayOfYear,
            String answer,
            String attribution,
            String closing) {
        this.locale = Locale.forLanguageTag(tag);
        this.day = DateTimeFormatter.ofPattern(day, locale);
        this.shortDay = DateTimeFormatter.ofPattern(shortDay, locale);
        this.dayOfYear = DateTimeFormatter.ofPattern(dayOfYear, locale);
        this.answer = answer;
        this.attribution = attribution;
        this.closing = closing;
    }

    static Language of(String code) {
        return valueOf(code.toUpperCase(Locale.ROOT));
    }

    /** The line before the name of somebody who usually writes in another language. */
    String closing() {
        return closing;
    }

    Locale locale() {
        return locale;
    }

    /** What stands before the subject of an answer. */
    String answer() {
        return answer;
    }

    /**
     * A day as a form of it is written.
     *
     * @param form empty (weekday, day and month), {@code short}, {@code year}, {@code weekday}, {@code month}, {@code iso}
     */
    String day(LocalDate date, String form) {
        String written = switch (form) {
            case "" -> day.format(date);
            case "short" -> shortDay.format(date);
            case "year" -> dayOfYear.format(date);
            case "weekday" -> DateTimeFormatter.ofPattern("EEEE", locale).format(date);
            case "month" ->
                DateTimeFormatter.ofPattern(this == JA ? "yyyy年M月" : "LLLL yyyy", locale)
                        .format(date);
            case "iso" -> date.toString();
            default -> throw new IllegalArgumentException("A day has no form " + form);
        };
        return this == FR && date.getDayOfMonth() == 1 ? written.replaceFirst("\\b1 ", "1er ") : written;
    }

    /** A number with the language's separators; form {@code plain} has none. */
    String number(BigDecimal number, String form) {
        return form.equals("plain")
                ? number.toPlainString()
                : NumberFormat.getInstance(locale).format(number).replace('\u202f', '\u00a0');
    }

    /** An amount in euros, with cents where there are any. */
    String money(BigDecimal amount) {
        NumberFormat format = NumberFormat.getInstance(locale);
        int cents = amount.stripTrailingZeros().scale() > 0 ? 2 : 0;
        format.setMinimumFractionDigits(cents);
        format.setMaximumFractionDigits(cents);
        String number = format.format(amount).replace('\u202f', '\u00a0');
        return this == EN ? "€" + number : number + "\u00a0€";
    }

    /** The line above what is quoted. */
    String attribution(LocalDate date, String name) {
        return attribution.formatted(dayOfYear.format(date), name);
    }
}
