package app.schublade.store.base;

import java.util.concurrent.ThreadLocalRandom;
import org.aopalliance.intercept.MethodInterceptor;
import org.aopalliance.intercept.MethodInvocation;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.aop.support.DefaultPointcutAdvisor;
import org.springframework.aop.support.annotation.AnnotationMatchingPointcut;
import org.springframework.beans.factory.config.BeanDefinition;
import org.springframework.context.annotation.Role;
import org.springframework.core.Ordered;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Does a transaction once more that PostgreSQL has ended because of another one (deadlocks and serialisation failures,
 * SQLSTATE class 40). Nothing of it was kept, so that doing it again is safe. Only the outermost transaction is repeated.
 */
@Component
@Role(BeanDefinition.ROLE_INFRASTRUCTURE)
class TryAgain extends DefaultPointcutAdvisor {
    private static final Logger LOG = LoggerFactory.getLogger(TryAgain.class);
    private static final long serialVersionUID = 1L;
    private static final int MOST = 5;
    private static final int PAUSE_MILLIS = 20;

    TryAgain() {
        super(new AnnotationMatchingPointcut(null, Transactional.class, true), (MethodInterceptor) TryAgain::invoke);
        setOrder(Ordered.HIGHEST_PRECEDENCE); // Around the transaction.
    }

    private static @Nullable Object invoke(MethodInvocation invocation) throws Throwable {
        if (TransactionSynchronizationManager.isActualTransactionActive()) {
            return invocation.proceed();
        }
        for (int tries = 1; ; tries++) {
            try {
                // Each try needs the chain of interceptors from here on.
                return ((org.springframework.aop.ProxyMethodInvocation) invocation)
                        .invocableClone()
                        .proceed();
            } catch (PessimisticLockingFailureException e) {
                if (tries == MOST) {
                    throw e;
                }
                LOG.warn("{} is done again: {}", invocation.getMethod().getName(), e.getMessage());
                Thread.sleep(ThreadLocalRandom.current().nextLong(1, PAUSE_MILLIS * (long) tries));
            }
        }
    }
}
