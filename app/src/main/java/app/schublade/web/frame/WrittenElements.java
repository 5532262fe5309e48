package app.schublade.web.frame;

import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.thymeleaf.context.ITemplateContext;
import org.thymeleaf.dialect.AbstractProcessorDialect;
import org.thymeleaf.model.IModelFactory;
import org.thymeleaf.model.IProcessableElementTag;
import org.thymeleaf.processor.IProcessor;
import org.thymeleaf.processor.element.AbstractElementTagProcessor;
import org.thymeleaf.processor.element.IElementTagStructureHandler;
import org.thymeleaf.standard.StandardDialect;
import org.thymeleaf.standard.expression.StandardExpressions;
import org.thymeleaf.templatemode.TemplateMode;

/**
 * Elements of templates in whose place stands what code writes: for what is on a page hundreds of times over, where an
 * element of Thymeleaf for each thing takes four times as long. What they are given are attributes, each an expression as
 * elsewhere.
 */
public final class WrittenElements extends AbstractProcessorDialect {
    /** Writes HTML of what the attributes hold, asked for by their names. */
    public interface ElementWriter extends Function<Function<String, @Nullable Object>, String> {}

    private final Map<String, ElementWriter> writers;

    /** @param prefix that the elements' names have in templates: {@code <list:rows/>} */
    public WrittenElements(String prefix, Map<String, ElementWriter> writers) {
        super("Schublade: " + prefix, prefix, StandardDialect.PROCESSOR_PRECEDENCE);
        this.writers = Map.copyOf(writers);
    }

    @Override
    public Set<IProcessor> getProcessors(String prefix) {
        Set<IProcessor> processors = new LinkedHashSet<>();
        writers.forEach((name, writer) -> processors.add(new WrittenElement(prefix, name, writer)));
        return processors;
    }

    private static final class WrittenElement extends AbstractElementTagProcessor {
        private final ElementWriter writer;

        WrittenElement(String prefix, String name, ElementWriter writer) {
            super(TemplateMode.HTML, prefix, name, true, null, false, StandardDialect.PROCESSOR_PRECEDENCE);
            this.writer = writer;
        }

        @Override
        protected void doProcess(
                ITemplateContext context, IProcessableElementTag tag, IElementTagStructureHandler structure) {
            String html = writer.apply(name -> value(context, tag, name));
            IModelFactory models = context.getModelFactory();
            structure.replaceWith(models.createModel(models.createText(html)), false);
        }

        private static @Nullable Object value(ITemplateContext context, IProcessableElementTag tag, String name) {
            String expression = tag.getAttributeValue(name);
            return expression == null
                    ? null
                    : StandardExpressions.getExpressionParser(context.getConfiguration())
                            .parseExpression(context, expression)
                            .execute(context);
        }
    }
}
