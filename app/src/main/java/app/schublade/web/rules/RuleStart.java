package app.schublade.web.rules;

import app.schublade.core.query.Query;
import app.schublade.store.message.FacetStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.Places;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.reader.LikelyFolders;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** How a rule begins that is made from a message. */
@Component
class RuleStart {
    /** More are not counted. */
    private static final int MOST = 1000;
    /** So many messages tell a conversation: what comes next answers one of the last, or names the first. */
    private static final int MOST_IDS = 12;

    private final FacetStore messages;
    private final ChosenMails mails;
    private final LikelyFolders likely;
    private final MessageStore stored;
    private final PeopleStore people;

    RuleStart(FacetStore messages, ChosenMails mails, LikelyFolders likely, MessageStore stored, PeopleStore people) {
        this.people = people;
        this.stored = stored;
        this.likely = likely;
        this.messages = messages;
        this.mails = mails;
    }

    /**
     * One of the ways to begin, as the page offers it.
     *
     * @param figure how much mail there is already that it would concern
     */
    public record Beginning(String said, String figure, String address, boolean chosen) {}

    /** The form, with the other ways to begin beside it. */
    RuleForm from(CurrentUser person, ListRow row, @Nullable String basis, Model model) {
        List<RuleFromMessage.Way> ways = RuleFromMessage.ways(
                row, people.namesakes(person.id(), row.sender()), stored.conversationIds(person.id(), row, MOST_IDS));
        RuleFromMessage.Way way = RuleFromMessage.chosen(ways, basis);
        if (way == null) {
            return RuleForm.EMPTY;
        }
        Places places = mails.places(person.id());
        Query received = ChosenMail.received(places);
        model.addAttribute(
                "beginnings",
                ways.stream()
                        .map(one -> new Beginning(
                                one.said(),
                                figure(messages.count(person.id(), one.query().and(received), MOST)),
                                "/rules/new?message=%d&by=%s"
                                        .formatted(row.id(), one.basis().parameter()),
                                one.equals(way)))
                        .toList());
        Places.Folder folder = places.folderOf(row.folderId());
        return RuleFromMessage.form(
                way, folder.use() == null ? folder.path().shown() : likelyFolder(person, row, places));
    }

    /** The folder that the message most likely belongs in; empty if none is more likely than not. */
    private String likelyFolder(CurrentUser person, ListRow row, Places places) {
        return likely.folders(person.id(), row, places, 1).stream()
                .filter(LikelyFolders.LikelyFolder::isLikelierThanNot)
                .map(one -> one.folder().path().shown())
                .findFirst()
                .orElse("");
    }

    private static String figure(int count) {
        return count == MOST ? "%,d or more".formatted(count) : "%,d".formatted(count);
    }
}
