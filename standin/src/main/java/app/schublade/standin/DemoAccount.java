package app.schublade.standin;

import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * One mailbox of the demo world.
 *
 * @param tone the colour of its block, by the name that the application knows
 * @param address its main address, which is its login too
 */
public record DemoAccount(String code, String name, String tone, String address, List<String> aliases) {
    /** The password of every account of the demo world. */
    public static final String PASSWORD = "lantern";

    /** The four accounts of one office worker. */
    public static final List<DemoAccount> ALL = List.of(
            new DemoAccount(
                    "MU",
                    "Museum",
                    "petrol",
                    "tilda.marwick@lanternquay.example",
                    List.of("loans@lanternquay.example", "press@lanternquay.example", "schools@lanternquay.example")),
            new DemoAccount("TS", "Touring show", "plum", "desk@northlights-tour.example", List.of()),
            new DemoAccount(
                    "RC",
                    "Rowing club",
                    "amber",
                    "secretary@brackwater-rowing.example",
                    List.of("regatta@brackwater-rowing.example")),
            new DemoAccount(
                    "PR",
                    "Private",
                    "slate",
                    "tilda@marwick-post.example",
                    List.of("tilda+shop@marwick-post.example", "tilda+travel@marwick-post.example")));

    /** The account that an address is delivered to. */
    public static Optional<DemoAccount> receiving(String address) {
        String key = address.toLowerCase(Locale.ROOT);
        return ALL.stream()
                .filter(account ->
                        account.address.equals(key) || account.aliases.contains(key) || account.isPlusAddress(key))
                .findFirst();
    }

    public static Optional<DemoAccount> byCode(String code) {
        return ALL.stream()
                .filter(account -> account.code.equalsIgnoreCase(code))
                .findFirst();
    }

    private boolean isPlusAddress(String key) {
        int at = address.indexOf('@');
        return key.startsWith(address.substring(0, at) + "+") && key.endsWith(address.substring(at));
    }
}
