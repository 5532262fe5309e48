package app.schublade.core.format;

import java.net.URI;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Element;
import org.jspecify.annotations.Nullable;

/**
 * The pictures that the HTML of a message only names, and that would have to be fetched from outside: whoever sent it would
 * learn that it is read.
 *
 * @param addresses of https, by what stands in the HTML, in their order
 * @param trackers how many pictures cannot be seen: they are there for their sender alone, and are never fetched
 */
public record OutsidePictures(Map<String, URI> addresses, int trackers) {
    private static final OutsidePictures NONE = new OutsidePictures(Map.of(), 0);
    private static final int MAX_HTML = 2_000_000;
    private static final int MOST = 100;
    private static final int LONGEST = 2_000;
    /** Smaller pictures show nothing; in pixels. */
    private static final int SMALLEST = 3;

    public static OutsidePictures in(@Nullable String html) {
        if (html == null || !html.toLowerCase(Locale.ROOT).contains("<img")) {
            return NONE;
        }
        Map<String, URI> addresses = new LinkedHashMap<>();
        int trackers = 0;
        String bounded = html.substring(0, Math.min(html.length(), MAX_HTML));
        for (Element picture : Jsoup.parse(HtmlText.withShortTags(bounded)).select("img[src]")) {
            String source = picture.attr("src").strip();
            Optional<URI> address = address(source);
            if (address.isPresent() && isUnseen(picture)) {
                trackers++;
            } else if (address.isPresent() && addresses.size() < MOST) {
                addresses.putIfAbsent(source, address.get());
            }
        }
        return new OutsidePictures(addresses, trackers);
    }

    /** By its number, from 0. */
    public Optional<URI> address(int number) {
        List<URI> all = new ArrayList<>(addresses.values());
        return number >= 0 && number < all.size() ? Optional.of(all.get(number)) : Optional.empty();
    }

    /** The number of what stands in the HTML; -1 if it is none of them. */
    public int number(String source) {
        return new ArrayList<>(addresses.keySet()).indexOf(source.strip());
    }

    /** Old mail names pictures without encryption; they are asked for with it. */
    private static Optional<URI> address(String source) {
        String lower = source.toLowerCase(Locale.ROOT);
        String secure = lower.startsWith("http:")
                ? "https" + source.substring("http".length())
                : lower.startsWith("//") ? "https:" + source : source;
        if (source.length() > LONGEST || !secure.toLowerCase(Locale.ROOT).startsWith("https://")) {
            return Optional.empty();
        }
        try {
            URI address = URI.create(secure.replace(" ", "%20"));
            return address.getHost() == null ? Optional.empty() : Optional.of(address);
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private static boolean isUnseen(Element picture) {
        return isTiny(picture.attr("width")) || isTiny(picture.attr("height")) || TextFromHtml.isUnseen(picture);
    }

    private static boolean isTiny(String size) {
        String number = size.strip().replaceFirst("(?i)px$", "");
        return number.matches("\\d{1,4}") && Integer.parseInt(number) < SMALLEST;
    }
}
