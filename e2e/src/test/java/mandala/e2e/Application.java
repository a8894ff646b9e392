package mandala.e2e;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import mandala.server.MandalaApplication;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** The built application on a fresh database of its own, on the real PostgreSQL. */
final class Application implements AutoCloseable {

  private final ConfigurableApplicationContext context;

  private Application(ConfigurableApplicationContext context) {
    this.context = context;
  }

  static Application start(String database, boolean demo) {
    String url = required("MANDALA_TEST_DB_URL");
    String user = required("MANDALA_TEST_DB_USER");
    String password = required("MANDALA_TEST_DB_PASSWORD");
    try (Connection connection = DriverManager.getConnection(url + "postgres", user, password);
        var statement = connection.createStatement()) {
      statement.execute("drop database if exists " + database + " with (force)");
      statement.execute("create database " + database);
    } catch (SQLException e) {
      throw new IllegalStateException("No database for the journeys", e);
    }
    return new Application(
        new SpringApplicationBuilder(MandalaApplication.class)
            .run(
                "--server.port=0",
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

  <T> T part(Class<T> type) {
    return context.getBean(type);
  }

  @Override
  public void close() {
    context.close();
  }
}
