package app.schublade.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.thymeleaf.context.ITemplateContext;
import org.thymeleaf.dialect.AbstractProcessorDialect;
import org.thymeleaf.model.IProcessableElementTag;
import org.thymeleaf.processor.IProcessor;
import org.thymeleaf.processor.element.AbstractElementTagProcessor;
import org.thymeleaf.processor.element.IElementTagStructureHandler;
import org.thymeleaf.templatemode.TemplateMode;

/** Notes which templates, and which of their fragments, an application has shown. */
final class TemplatesSeen extends AbstractProcessorDialect {
    private static final Path TEMPLATES = Path.of("../app/src/main/resources/templates");
    private static final Pattern FRAGMENT = Pattern.compile("th:fragment=\"(\\w+)");
    private static final int FIRST_OF_ALL = 1;

    private final Set<String> seen = new ConcurrentSkipListSet<>();

    TemplatesSeen() {
        super("Templates seen", "seen", FIRST_OF_ALL);
    }

    @Override
    public Set<IProcessor> getProcessors(String prefix) {
        return Set.of(new Noter());
    }

    private final class Noter extends AbstractElementTagProcessor {
        Noter() {
            super(TemplateMode.HTML, null, null, false, null, false, FIRST_OF_ALL);
        }

        @Override
        protected void doProcess(
                ITemplateContext context, IProcessableElementTag tag, IElementTagStructureHandler structure) {
            seen.add(tag.getTemplateName());
            String fragment = tag.getAttributeValue("th:fragment");
            if (fragment != null) {
                seen.add(tag.getTemplateName() + " :: " + fragment.replaceFirst("\\(.*", ""));
            }
        }
    }

    /** What there is and was not shown. */
    Set<String> missing() {
        Set<String> all = new TreeSet<>();
        try (Stream<Path> files = Files.walk(TEMPLATES)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                String name = TEMPLATES.relativize(file).toString().replace(".html", "");
                all.add(name);
                Matcher fragments = FRAGMENT.matcher(Files.readString(file));
                while (fragments.find()) {
                    all.add(name + " :: " + fragments.group(1));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException("The templates are not at " + TEMPLATES.toAbsolutePath(), e);
        }
        all.removeAll(seen);
        return all;
    }
}
