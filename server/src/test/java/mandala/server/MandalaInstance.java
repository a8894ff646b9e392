package mandala.server;

import java.util.ArrayList;
import java.util.List;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.core.env.Environment;

/** Another instance of the whole server on the database of a test. */
public final class MandalaInstance {

  private MandalaInstance() {}

  /**
   * {@return a running instance on another port}; the caller closes it
   *
   * @param parts of a test that it has besides its own
   */
  public static ConfigurableApplicationContext start(Environment database, Class<?>... parts) {
    List<Class<?>> all = new ArrayList<>(List.of(MandalaApplication.class));
    all.addAll(List.of(parts));
    return new SpringApplicationBuilder(all.toArray(Class<?>[]::new))
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
