package mandala.server;

import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.core.env.Environment;

/** Another instance of the whole server on the database of a test. */
public final class MandalaInstance {

  private MandalaInstance() {}

  /** {@return a running instance on another port}; the caller closes it */
  public static ConfigurableApplicationContext start(Environment database) {
    return new SpringApplicationBuilder(MandalaApplication.class)
        .properties("server.port=0")
        .run(
            "--server.port=0",
            "--mandala.keys=" + database.getRequiredProperty("mandala.keys"),
            "--spring.datasource.url=" + database.getRequiredProperty("spring.datasource.url"),
            "--spring.datasource.username="
                + database.getRequiredProperty("spring.datasource.username"),
            "--spring.datasource.password="
                + database.getRequiredProperty("spring.datasource.password"));
  }
}
