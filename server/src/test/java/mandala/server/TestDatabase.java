package mandala.server;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import org.springframework.boot.test.util.TestPropertyValues;
import org.springframework.context.ApplicationContextInitializer;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.core.env.Environment;

/**
 * A fresh database on the real PostgreSQL that {@code ./mandala test} starts, one for each context.
 */
public final class TestDatabase
    implements ApplicationContextInitializer<ConfigurableApplicationContext> {

  private static int made;

  /** {@return an environment variable that {@code ./mandala test} sets} */
  static String required(String name) {
    String value = System.getenv(name);
    if (value == null) {
      throw new IllegalStateException(name + " is not set. Run the tests with ./mandala test");
    }
    return value;
  }

  private static synchronized String make() {
    String name = "server_" + System.getProperty("test.fork", "1") + "_" + ++made;
    try (Connection connection = connect("postgres");
        var statement = connection.createStatement()) {
      statement.execute("drop database if exists " + name + " with (force)");
      statement.execute("create database " + name);
    } catch (SQLException e) {
      throw new IllegalStateException("No database for the test", e);
    }
    return name;
  }

  /** A folder of its own: the databases are made anew for each run. */
  private static Path keys() {
    try {
      return Files.createTempDirectory("mandala-keys");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Lets a test's server into its database, or throws it out and lets nobody in. */
  public static void admit(Environment environment, boolean admitted) {
    String url = environment.getRequiredProperty("spring.datasource.url");
    String database = url.substring(url.lastIndexOf('/') + 1);
    try (Connection connection = connect("postgres");
        var statement = connection.createStatement()) {
      statement.execute("alter database " + database + " with allow_connections " + admitted);
      if (!admitted) {
        statement.execute(
            "select pg_terminate_backend(pid) from pg_stat_activity where datname = '"
                + database
                + "'");
      }
    } catch (SQLException e) {
      throw new AssertionError(e);
    }
  }

  static Connection connect(String database) throws SQLException {
    return DriverManager.getConnection(
        required("MANDALA_TEST_DB_URL") + database,
        required("MANDALA_TEST_DB_USER"),
        required("MANDALA_TEST_DB_PASSWORD"));
  }

  @Override
  public void initialize(ConfigurableApplicationContext context) {
    TestPropertyValues.of(
            "spring.datasource.url=" + required("MANDALA_TEST_DB_URL") + make(),
            "mandala.keys=" + keys(),
            "mandala.personnel=" + keys(),
            "spring.datasource.username=" + required("MANDALA_TEST_DB_USER"),
            "spring.datasource.password=" + required("MANDALA_TEST_DB_PASSWORD"),
            "springdoc.api-docs.enabled=true")
        .applyTo(context);
  }
}
