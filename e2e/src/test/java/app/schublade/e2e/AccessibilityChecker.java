package app.schublade.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.ForcedColors;
import com.microsoft.playwright.options.ReducedMotion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/**
 * What is on a page as a checker of accessibility sees it (WCAG 2.2 A and AA, good practice, and what the checker only tries
 * out): at every size and with every choice of colours.
 */
final class AccessibilityChecker {
    private static final List<String> WANTED =
            List.of("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice", "experimental");
    /** Rules to which nothing but the colours makes a difference. */
    private static final List<String> OF_COLOURS = List.of("color-contrast", "link-in-text-block");
    /** Rules to which it makes a difference where things are; magnified, the same things are there as in a narrow window. */
    private static final List<String> OF_LAYOUT =
            List.of("color-contrast", "link-in-text-block", "target-size", "scrollable-region-focusable");
    /** Parts of a page that are the same behind most of what opens: their looks are checked once in each setting. */
    private static final String PARTS =
            ".top, #cabinet, .bar, .narrow, #rows > *, .deeds, #sheet > *, #slots, dialog:not([open])";

    private static final String CHECKER = checker();
    /**
     * What is in a frame is what somebody else has written, and no script runs in it. That the focus can be on what scrolls,
     * and on what divides two parts, is wanted (WCAG 2.1.1), though one of the rules that are tried out objects.
     */
    private static final String CHECK = """
            async ([tags, looks, isNarrow, sheetsToo]) => {
              const seen = [['[data-checked]']];
              const told = async (type, values, exclude) => {
                if (values.length === 0) return [];
                const { violations } = await axe.run({ include: [document.documentElement], exclude }, {
                  runOnly: { type, values }, iframes: false, resultTypes: ['violations'], preload: sheetsToo,
                  rules: type === 'tag'
                    ? Object.fromEntries(['focus-order-semantics', ...looks].map((rule) => [rule, { enabled: false }]))
                    : {},
                });
                return violations.map(({ id, help, nodes }) =>
                  `${id}: ${help}` + nodes.slice(0, 4).map((one) => `\\n    ${one.target} ${one.html.slice(0, 200)} ${one.any[0]?.message ?? ''}`).join(''));
              };
              // What a menu that is open covers in part is no target: a press there closes the menu.
              const sheets = [...document.querySelectorAll('[open] > .menu-sheet')].map((one) => [one, one.getBoundingClientRect()]);
              document.querySelectorAll('a, button, input, summary').forEach((one) => {
                const { left, right, top, bottom } = one.getBoundingClientRect();
                one.toggleAttribute('data-covered', sheets.some(([sheet, at]) => !sheet.contains(one)
                  && left < at.right && at.left < right && top < at.bottom && at.top < bottom));
              });
              return [...await told('tag', tags, isNarrow ? seen : []), ...await told('rule', looks, [...seen, ['[data-covered]']])];
            }
            """;

    /** What is in each part, and where; nothing while something lies before it. */
    private static final String IN_PARTS = """
            (parts) => [...document.querySelectorAll(parts)].map((one) => {
              one.removeAttribute('data-checked');
              if (document.querySelector('dialog[open]') !== null) return '';
              const { x, y, width, height } = one.getBoundingClientRect();
              return [x, y, width, height, document.body.className, one.outerHTML.replace(/name="_csrf" value="[^"]*"/g, '')].join(' ');
            })
            """;

    private static final String MARK = """
            ([parts, checked]) => document.querySelectorAll(parts).forEach((one, i) => one.toggleAttribute('data-checked', checked[i]))
            """;

    /** Colours that change take a moment. */
    private static final String AT_REST = """
            () => Promise.race([
              new Promise((done) => setTimeout(done, 500)),
              Promise.all(document.getAnimations().filter((one) => one.effect.getComputedTiming().endTime < 1000).map((one) => one.finished.catch(() => {}))),
            ])
            """;

    private static String checker() {
        try (InputStream source = AxeBuilder.class.getResourceAsStream("/axe.min.js")) {
            return new String(Objects.requireNonNull(source).readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException("The checker cannot be read", e);
        }
    }

    /** How somebody looks at it; all but the usual way is without motion too. */
    enum Setting {
        USUAL(1280, 800),
        MAGNIFIED(640, 400),
        NARROW(390, 844),
        DARK(1280, 800),
        FORCED(1280, 800);

        private final int width;
        private final int height;

        Setting(int width, int height) {
            this.width = width;
            this.height = height;
        }

        private void apply(Page page) {
            page.setViewportSize(width, height);
            page.emulateMedia(new Page.EmulateMediaOptions()
                    .setColorScheme(this == DARK ? ColorScheme.DARK : ColorScheme.LIGHT)
                    .setForcedColors(this == FORCED ? ForcedColors.ACTIVE : ForcedColors.NONE)
                    .setReducedMotion(this == USUAL ? ReducedMotion.NO_PREFERENCE : ReducedMotion.REDUCE));
        }

        /** The same page in other colours, or magnified, was checked for all that is not in its looks before. */
        private List<String> tags() {
            return this == USUAL || this == NARROW ? WANTED : List.of();
        }

        private List<String> looks() {
            return this == DARK || this == FORCED ? OF_COLOURS : OF_LAYOUT;
        }
    }

    private final Page page;
    private final Set<String> seen = new HashSet<>();

    AccessibilityChecker(Page page) {
        this.page = page;
    }

    /** The page is looked at in this way from now on. */
    void in(Setting setting) {
        setting.apply(page);
    }

    /** Checks what is on the screen in every setting, and tells all of it at once. */
    void inEverySetting(String name) {
        List<String> found = new ArrayList<>();
        for (Setting setting : Setting.values()) {
            in(setting);
            page.evaluate(AT_REST);
            if (page.evaluate("() => window.axe === undefined").equals(true)) {
                page.evaluate(CHECKER);
            }
            markWhatWasSeen(setting);
            boolean narrow = setting == Setting.NARROW;
            boolean sheetsToo = seen.add("style sheets"); // They are the same on every page.
            List<Object> wish = List.of(setting.tags(), setting.looks(), narrow, sheetsToo);
            for (Object one : (List<?>) page.evaluate(CHECK, wish)) {
                found.add(setting + " " + one);
            }
            Object wide = page.evaluate("document.documentElement.scrollWidth - innerWidth");
            if (((Number) wide).intValue() > 0) {
                found.add(setting + " the page is wider than its window by " + wide);
            }
        }
        in(Setting.USUAL);
        assertThat(found).as(name).isEmpty();
    }

    /** The parts that were checked in this setting as they are now. */
    private void markWhatWasSeen(Setting setting) {
        List<?> contents = (List<?>) page.evaluate(IN_PARTS, PARTS);
        List<Boolean> checked = contents.stream()
                .map(content -> !content.equals("") && !seen.add(setting + " " + content))
                .toList();
        page.evaluate(MARK, List.of(PARTS, checked));
    }
}
