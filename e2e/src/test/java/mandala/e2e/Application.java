package mandala.e2e;

import java.io.File;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import mandala.core.change.ModelDifference;
import mandala.core.model.AccessModel;
import mandala.server.MandalaApplication;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.SmartLifecycle;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.util.FileSystemUtils;

/** The built application on a fresh database of its own, on the real PostgreSQL. */
final class Application implements AutoCloseable {

  private final ConfigurableApplicationContext context;

  private Application(ConfigurableApplicationContext context) {
    this.context = context;
  }

  static Application start(String database, boolean demo) {
    onServer("drop database if exists " + database + " with (force)");
    onServer("create database " + database);
    FileSystemUtils.deleteRecursively(new File("target/keys/" + database));
    return on(database, demo, 0);
  }

  private static void onServer(String sql) {
    try (Connection connection =
            DriverManager.getConnection(
                required("MANDALA_TEST_DB_URL") + "postgres",
                required("MANDALA_TEST_DB_USER"),
                required("MANDALA_TEST_DB_PASSWORD"));
        var statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      throw new IllegalStateException("The database server does not do: " + sql, e);
    }
  }

  /**
   * {@return the application on a database as it was left}
   *
   * @param port 0 for any
   */
  static Application on(String database, boolean demo, int port) {
    String url = required("MANDALA_TEST_DB_URL");
    String user = required("MANDALA_TEST_DB_USER");
    String password = required("MANDALA_TEST_DB_PASSWORD");
    return new Application(
        new SpringApplicationBuilder(MandalaApplication.class)
            .run(
                "--server.port=" + port,
                "--mandala.keys=target/keys/" + database,
                "--mandala.personnel=target/personnel/" + database,
                "--mandala.rest=1",
                "--spring.datasource.url=" + url + database,
                "--spring.datasource.username=" + user,
                "--spring.datasource.password=" + password,
                "--mandala.demo=" + demo));
  }

  private static String required(String name) {
    String value = System.getenv(name);
    if (value == null) {
      throw new IllegalStateException(name + " is not set. Run the tests with ./mandala test");
    }
    return value;
  }

  String address() {
    return "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port");
  }

  /** {@return where lists of the personnel office are looked for} */
  Path personnel() {
    return Path.of(context.getEnvironment().getRequiredProperty("mandala.personnel"));
  }

  <T> T part(Class<T> type) {
    return context.getBean(type);
  }

  /** {@return the model as it is}, for {@link #restore} */
  AccessModel model() {
    return part(LiveModel.class).engine().catalogue().model();
  }

  /** Puts the model back, and takes back what is planned: other journeys find both as they were. */
  void restore(@Nullable AccessModel before) {
    if (before != null) {
      part(JdbcTemplate.class).update("delete from planned_act");
      part(LiveModel.class).change(ModelDifference.between(model(), before));
    }
  }

  /** Has long work, mail and what is dated wait until it is let go on. */
  void pauseQueues(boolean paused) {
    SmartLifecycle queues = context.getBean("schedulers", SmartLifecycle.class);
    if (paused) {
      queues.stop();
    } else {
      queues.start();
    }
  }

  @Override
  public void close() {
    context.close();
  }
}
