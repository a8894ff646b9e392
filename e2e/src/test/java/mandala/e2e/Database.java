package mandala.e2e;

import java.io.IOException;
import java.net.ServerSocket;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/** Statements to a test database, past the application. */
final class Database {

  private Database() {}

  private static Connection connect(String database) throws SQLException {
    return DriverManager.getConnection(
        System.getenv("MANDALA_TEST_DB_URL") + database,
        System.getenv("MANDALA_TEST_DB_USER"),
        System.getenv("MANDALA_TEST_DB_PASSWORD"));
  }

  /** Runs a statement. */
  static void run(String database, String sql) throws SQLException {
    try (Connection connection = connect(database);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  /** {@return the one word that a question gives} */
  static String word(String database, String sql) throws SQLException {
    try (Connection connection = connect(database);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return rows.getString(1);
    }
  }

  /** {@return a port that nobody listens on} */
  static int freePort() throws IOException {
    try (ServerSocket socket = new ServerSocket(0)) {
      return socket.getLocalPort();
    }
  }
}
