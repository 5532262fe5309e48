package app.schublade.core.sieve;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The account of the tests: folders 10 to 12, labels 20 to 22, categories 30 and 31. */
final class Harbour implements SieveWorld {
    static final OwnAddresses OWN =
            new OwnAddresses("tilda@quay.example", Set.of("loans@quay.example", "*@tilda.example"));
    static final FolderRef TRASH = new FolderRef(2, FolderPath.parse("Trash"));
    static final List<FolderRef> FOLDERS = List.of(
            new FolderRef(10, FolderPath.parse("Loans")),
            new FolderRef(11, FolderPath.parse("Loans/Halden \"North\"")),
            new FolderRef(12, FolderPath.parse("Schools")));
    static final List<LabelRef> LABELS = List.of(label(20, "Objects"), label(21, "Objects/Stone"), label(22, "Press"));
    static final List<CategoryRef> CATEGORIES = List.of(new CategoryRef(30, "Next"), new CategoryRef(31, "Waiting"));

    private static LabelRef label(long id, String path) {
        return new LabelRef(id, FolderPath.parse(path));
    }

    @Override
    public long account() {
        return 1;
    }

    @Override
    public OwnAddresses own() {
        return OWN;
    }

    @Override
    public String mailbox(FolderRef folder) {
        return folder.path().toString().replace("/", ".");
    }

    @Override
    public FolderRef folder(String mailbox) {
        return FOLDERS.stream()
                .filter(one -> mailbox(one).equals(mailbox))
                .findFirst()
                .orElse(FolderRef.unmade(mailbox.replace('.', '/')));
    }

    @Override
    public FolderRef trash() {
        return TRASH;
    }

    @Override
    public String keyword(LabelRef label) {
        return "l" + label.id();
    }

    @Override
    public String keyword(CategoryRef category) {
        return "c" + category.id();
    }

    @Override
    public List<String> categoryKeywords() {
        return CATEGORIES.stream().map(this::keyword).toList();
    }

    @Override
    public @Nullable Effect effect(String keyword, boolean on) {
        for (LabelRef label : LABELS) {
            if (keyword(label).equals(keyword)) {
                return new Effect.SetLabel(label, on);
            }
        }
        for (CategoryRef category : CATEGORIES) {
            if (keyword(category).equals(keyword)) {
                return new Effect.Categorise(on ? category : null);
            }
        }
        return null;
    }
}
