package app.schublade.store.find;

import app.schublade.core.query.Search;
import app.schublade.core.query.Search.SearchTerm;
import app.schublade.core.query.Words;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The words of a user's mail. */
@Repository
public class VocabularyStore {
    /** What is less alike is something else. */
    private static final double ALIKE = 0.35;

    private final JdbcClient jdbc;

    VocabularyStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The text of a search with each word that is nowhere as the one most like it; empty if there is none. */
    @Transactional(readOnly = true)
    public Optional<String> closest(long userId, Search search) {
        StringBuilder text = new StringBuilder(search.typed());
        List<SearchTerm> terms = search.terms();
        for (int i = terms.size() - 1; i >= 0; i--) {
            SearchTerm term = terms.get(i);
            if (term.query() instanceof Words words && !words.exact() && term.wanted()) {
                closest(userId, words)
                        .ifPresent(
                                word -> text.replace(term.end() - term.value().length(), term.end(), word));
            }
        }
        return Optional.of(text.toString()).filter(one -> !one.equals(search.typed()));
    }

    private Optional<String> closest(long userId, Words words) {
        List<List<String>> forms = words.forms();
        if (forms.size() != 1 || !words.isPart(forms)) {
            return Optional.empty();
        }
        String word = forms.get(0).get(0);
        jdbc.sql("select set_config('pg_trgm.similarity_threshold', ?, true)")
                .param(String.valueOf(ALIKE))
                .query()
                .singleRow();
        boolean known = jdbc.sql(
                        "select exists (select from vocabulary where user_id = ? and word like '%' || ? || '%')")
                .params(userId, word)
                .query(Boolean.class)
                .single();
        return known
                ? Optional.empty()
                : jdbc.sql("""
                                select word from vocabulary where user_id = :user and word % :word
                                order by similarity(word, :word) desc, word limit 1
                                """)
                        .param("user", userId)
                        .param("word", word)
                        .query(String.class)
                        .optional();
    }
}
