package mandala.server;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.test.context.ContextConfiguration;

/** The whole server over HTTP on a real PostgreSQL, with the demo loaded. */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@SpringBootTest(
    classes = MandalaApplication.class,
    webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT,
    properties = {"mandala.demo=true", "mandala.figures.past=0", "mandala.demo-use=false"})
@ContextConfiguration(initializers = TestDatabase.class)
public @interface ApiTest {}
