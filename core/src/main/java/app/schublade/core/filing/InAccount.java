package app.schublade.core.filing;

import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The account that the message came to. */
public record InAccount(List<Ref> accounts) implements Condition {
    public InAccount {
        accounts = List.copyOf(accounts);
    }

    /** An account by its identity and its present name. */
    public record Ref(long id, String name) {}

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        for (Ref account : accounts) {
            if (account.id() == matter.message().account()) {
                return "account " + account.name();
            }
        }
        return null;
    }

    @Override
    public Trigger trigger() {
        return Trigger.of(
                Trigger.TriggerKind.ACCOUNT,
                accounts.stream().map(account -> String.valueOf(account.id())).toList());
    }

    @Override
    public String sentence() {
        return accounts.stream().map(Ref::name).collect(Collectors.joining(" or ", "account ", ""));
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.inAccount(this);
    }
}
