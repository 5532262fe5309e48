package app.schublade.store.base;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.jdbc.datasource.DelegatingDataSource;
import org.springframework.stereotype.Component;

/**
 * The one gate through which text goes to the database: PostgreSQL refuses NUL in text, and with it the whole statement,
 * so none gets there, in whatever parameter. Half of a surrogate pair, which is no text either (RFC 3629, section 3), is
 * replaced. What is sent by COPY ({@link BulkRows}) or as a document ({@link Json}) calls {@link #clean} itself.
 */
@Component
class TextGate implements BeanPostProcessor {
    @Override
    public Object postProcessAfterInitialization(Object bean, String name) {
        return bean instanceof DataSource source && !(bean instanceof Gated) ? new Gated(source) : bean;
    }

    /** Text as the database takes it. */
    static String clean(String text) {
        for (int i = 0; i < text.length(); i++) {
            char sign = text.charAt(i);
            if (sign == 0 || Character.isSurrogate(sign)) {
                String whole = new String(text.getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8);
                return whole.replace("\0", "");
            }
        }
        return text;
    }

    private static @Nullable Object clean(@Nullable Object value) {
        if (value instanceof String text) {
            return clean(text);
        }
        if (value instanceof Object[] many && !(value instanceof Number[])) {
            Object[] cleaned = many.clone();
            for (int i = 0; i < cleaned.length; i++) {
                cleaned[i] = clean(many[i]);
            }
            return cleaned;
        }
        return value;
    }

    private static final class Gated extends DelegatingDataSource {
        Gated(DataSource source) {
            super(source);
        }

        @Override
        public Connection getConnection() throws SQLException {
            return gated(super.getConnection());
        }

        @Override
        public Connection getConnection(String user, String password) throws SQLException {
            return gated(super.getConnection(user, password));
        }

        private static Connection gated(Connection connection) {
            return proxy(Connection.class, (proxy, method, arguments) -> {
                Object result = invoke(connection, method, arguments);
                return result instanceof PreparedStatement statement
                                && !method.getName().startsWith("prepareCall")
                        ? gated(statement)
                        : result;
            });
        }

        private static PreparedStatement gated(PreparedStatement statement) {
            return proxy(PreparedStatement.class, (proxy, method, arguments) -> invoke(statement, method, arguments));
        }

        private static <T> T proxy(Class<T> type, InvocationHandler handler) {
            return type.cast(Proxy.newProxyInstance(TextGate.class.getClassLoader(), new Class<?>[] {type}, handler));
        }

        /** The text of a statement is ours; only parameters and arrays of them hold other people's. */
        private static @Nullable Object invoke(Object target, Method method, @Nullable Object @Nullable [] arguments)
                throws Throwable {
            boolean gives =
                    method.getName().startsWith("set") || method.getName().equals("createArrayOf");
            if (arguments != null && gives) {
                for (int i = 0; i < arguments.length; i++) {
                    arguments[i] = clean(arguments[i]);
                }
            }
            try {
                return method.invoke(target, arguments);
            } catch (InvocationTargetException e) {
                throw e.getCause();
            }
        }
    }
}
