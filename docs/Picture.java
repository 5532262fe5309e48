import java.util.List;

/** Draws the picture that "How Schublade is built" begins with: {@code java docs/Picture.java > docs/how-it-is-built.svg}. */
final class Picture {
    private static final int WIDTH = 960;
    private static final int HEIGHT = 528;
    private static final StringBuilder SVG = new StringBuilder();

    private Picture() {}

    public static void main(String[] arguments) {
        SVG.append("""
                <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" font-family="system-ui, sans-serif" font-size="13">
                <title>The packages of Schublade, and the way of a message through them</title>
                <defs><marker id="tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto-start-reverse">
                <path d="M0 0 8 4 0 8z" fill="#125457"/></marker></defs>
                <rect width="%d" height="%d" fill="#f4efe4"/>
                """.formatted(WIDTH, HEIGHT, WIDTH, HEIGHT));
        module(20, 60, 150, 180, "mail", List.of("IMAP, POP3, SMTP", "ManageSieve", "discovery"));
        module(210, 60, 150, 180, "app · sync", List.of("a worker an account", "looks, orders", "the postman", "the tickler’s clock"));
        module(400, 60, 250, 330, "app · store", List.of(
                "base: transactions, locks, SQL", "account · user", "place · rule", "message: lists, queries", "act: the one list of acts",
                "filing: every change", "intake: the way in", "cabinet: changes of places", "find · learn · triage · noise · outgoing", "work: what takes long"));
        module(690, 60, 250, 180, "app · web", List.of(
                "frame: what stands around", "desk, reader, places", "rules, record, people", "compose, accounts, triage, login"));
        module(690, 270, 250, 120, "app · work", List.of("threads, schedules", "long acts and scans", "learn: what filing teaches"));
        module(20, 420, 920, 88, "core", List.of(
                "message · format (MIME, Sieve) · place (trees) · filing (rules, effects, verdicts) · query · learn (the likely folder)",
                "pure: no framework, no SQL, no socket; what decides is here"));
        module(20, 270, 255, 120, "standin, e2e, bench", List.of("simulated mail hosts, the demo", "journeys in a browser", "figures beside a baseline"));
        arrow(170, 110, 210, 110, "fetch");
        arrow(360, 110, 400, 110, "intake");
        arrow(650, 110, 690, 110, "told");
        arrow(690, 200, 650, 200, "acts");
        arrow(400, 200, 360, 200, "orders");
        arrow(210, 200, 170, 200, "told");
        arrow(318, 240, 318, 420, "");
        text(326, 340, "verdict", "#125457", "start");
        arrow(525, 390, 525, 420, "");
        text(20, 34, "A message comes in from the left and is filed before anybody sees it; an act goes back from the right.", "#22302f", "start");
        System.out.println(SVG.append("</svg>"));
    }

    private static void module(int x, int y, int width, int height, String name, List<String> lines) {
        SVG.append("<rect x=\"%d\" y=\"%d\" width=\"%d\" height=\"%d\" rx=\"4\" fill=\"#fffdf7\" stroke=\"#b9ad92\"/>%n"
                .formatted(x, y, width, height));
        text(x + 12, y + 24, name, "#125457\" font-weight=\"700", "start");
        for (int i = 0; i < lines.size(); i++) {
            text(x + 12, y + 48 + i * 22, lines.get(i), "#22302f", "start");
        }
    }

    private static void arrow(int x1, int y1, int x2, int y2, String what) {
        SVG.append("<path d=\"M%d %dL%d %d\" stroke=\"#125457\" stroke-width=\"2\" marker-end=\"url(#tip)\"/>%n"
                .formatted(x1, y1, x2, y2));
        if (!what.isEmpty()) {
            text((x1 + x2) / 2, y1 - 7, what, "#125457\" font-size=\"11", "middle");
        }
    }

    private static void text(int x, int y, String words, String colour, String anchor) {
        SVG.append("<text x=\"%d\" y=\"%d\" fill=\"%s\" text-anchor=\"%s\">%s</text>%n"
                .formatted(x, y, colour, anchor, words.replace("&", "&amp;").replace("<", "&lt;")));
    }
}
