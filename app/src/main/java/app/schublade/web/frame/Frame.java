package app.schublade.web.frame;

import app.schublade.core.place.Habits;
import app.schublade.core.place.PathTree;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.user.HabitStore;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Makes what stands around every page. */
@Component
public class Frame {
    private final AccountStore accounts;
    private final PlaceStore places;
    private final OpenCounts open;
    private final HabitStore habits;
    private final AccountChips chips;
    private final SearchCounts searches;

    Frame(
            AccountStore accounts,
            PlaceStore places,
            OpenCounts open,
            HabitStore habits,
            AccountChips chips,
            SearchCounts searches) {
        this.searches = searches;
        this.accounts = accounts;
        this.places = places;
        this.open = open;
        this.habits = habits;
        this.chips = chips;
    }

    /**
     * The cabinet, the chips, and where the user stands.
     *
     * @param here the address of the place that is shown: {@code /mail/folder/12}
     * @param account the account that the view is narrowed to, or null
     * @param open what is open
     * @param habits how the user likes the desk
     * @param keys those that the user chose, by the usual ones
     * @param searches saved ones
     */
    public record View(
            String here,
            @Nullable Account account,
            List<Chip> chips,
            Places places,
            OpenCounts.OpenCount open,
            Habits habits,
            Map<String, String> keys,
            List<SearchCounts.Shown> searches,
            CurrentUser person) {
        private static final int MOST_COLOURS = 500;
        private static final List<SpecialUse> SPECIALS =
                List.of(SpecialUse.DRAFTS, SpecialUse.SENT, SpecialUse.ARCHIVE, SpecialUse.JUNK, SpecialUse.TRASH);

        /** The style sheet with the colours that are none of the palette's; null if there are none. */
        public @Nullable String colours() {
            String all = places.labels().stream()
                    .map(Places.Label::own)
                    .filter(Objects::nonNull)
                    .map(colour -> colour.toString().substring(1))
                    .distinct()
                    .sorted()
                    .limit(MOST_COLOURS)
                    .collect(Collectors.joining("-"));
            return all.isEmpty() ? null : "/colours/" + all + ".css";
        }

        /** The folders that the cabinet shows. */
        public PathTree<Places.Folder> drawers() {
            return places.folderTree().keep(folder -> isShown(folder, "/mail/folder/" + folder.id()));
        }

        /** The labels that the cabinet shows. */
        public PathTree<Places.Label> tabs() {
            return places.labelTree().keep(label -> isShown(label, "/mail/label/" + label.id()));
        }

        private boolean isShown(Places.Placed place, String address) {
            return place.unread() > 0 || isHere(address) || (!habits.unreadOnly() && isInSight(place));
        }

        private boolean isInSight(Places.Placed place) {
            return habits.hiddenToo() || !place.hidden();
        }

        /** What a drawer's plate says: with what lies in it, if that is out of sight. */
        public int unreadOf(PathTree.Node<Places.Folder> node) {
            return node.item().folded() ? unreadWithin(node) : node.item().unread();
        }

        private static int unreadWithin(PathTree.Node<Places.Folder> node) {
            return node.item().unread()
                    + node.children().stream().mapToInt(View::unreadWithin).sum();
        }

        /** The saved searches that the cabinet shows. */
        public List<SearchCounts.Shown> shownSearches() {
            return searches.stream()
                    .filter(one -> !one.search().ifUnread() || one.unread() > 0 || isHere(one.address()))
                    .toList();
        }

        /** Whether the Inbox shows its trays. */
        public boolean trays() {
            return habits.trays() && !places.trays().isEmpty();
        }

        public Places.Folder inbox() {
            return places.special(SpecialUse.INBOX);
        }

        /** Whether the cabinet keeps places out of sight, or would if the user had not asked for all of them. */
        public boolean hidesSome() {
            return places.folders().stream().anyMatch(Places.Placed::hidden)
                    || places.labels().stream().anyMatch(Places.Placed::hidden);
        }

        /** The rest of the special folders that the cabinet shows, in its order. */
        public List<Places.Folder> specials() {
            return SPECIALS.stream()
                    .map(places::special)
                    .filter(folder -> folder.unread() > 0 || isHere("/mail/folder/" + folder.id()) || isInSight(folder))
                    .toList();
        }

        /** Accounts whose mail is still being looked for or fetched. */
        public List<Account> importing() {
            return chips.stream()
                    .map(Chip::account)
                    .filter(one ->
                            one.state() == Account.AccountState.NEW || one.state() == Account.AccountState.IMPORTING)
                    .toList();
        }

        /** Where an account's chip leads: the same place in this account only, or in all again. */
        public String narrowed(Chip chip) {
            String place = here.startsWith("/mail/") ? here : "/mail/inbox";
            return chip.chosen()
                    ? place
                    : place + (place.contains("?") ? "&" : "?") + "account="
                            + chip.account().code();
        }

        public boolean isHere(String address) {
            return here.equals(address);
        }
    }

    /**
     * An account in the top bar.
     *
     * @param state what is wrong or going on, in plain words
     * @param troubled whether its user should look
     */
    public record Chip(Account account, int unread, boolean chosen, String state, boolean troubled) {
        /** The account's name, how it is doing, and why. */
        public String told() {
            String trouble = account.status().trouble();
            return account.name() + ": " + state + (trouble == null ? "" : ". " + trouble);
        }
    }

    /**
     * What a list needs to be told in words: much less than what stands around it.
     *
     * @param account the account that the view is narrowed to, or null
     */
    public record FrameData(
            List<Account> accounts, @Nullable Account account, Places places) {
        /** @throws InputProblem if there is no such account */
        public Account account(long id) {
            return accounts.stream()
                    .filter(one -> one.id() == id)
                    .findFirst()
                    .orElseThrow(() -> new InputProblem("There is no account %d.".formatted(id)));
        }
    }

    /** @param accountCode of the account to narrow to; null or unknown for all */
    public FrameData known(CurrentUser person, @Nullable String accountCode) {
        List<Account> all = accounts.of(person.id());
        Account chosen = all.stream()
                .filter(one -> one.code().equals(accountCode))
                .findFirst()
                .orElse(null);
        return new FrameData(all, chosen, places.of(person.id(), chosen == null ? null : chosen.id()));
    }

    /** @param accountCode of the account to narrow to; null or unknown for all */
    public View view(CurrentUser person, String here, @Nullable String accountCode) {
        return around(person, here, known(person, accountCode));
    }

    /** What stands around what is known already. */
    public View around(CurrentUser person, String here, FrameData known) {
        return new View(
                here,
                known.account(),
                chips.of(person, known),
                known.places(),
                open.of(
                        person.id(),
                        known.account() == null ? null : known.account().id()),
                habits.of(person.id()),
                habits.keys(person.id()),
                searches.of(person.id(), known.places(), known.accounts()),
                person);
    }
}
