package mandala.server.model;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import mandala.server.platform.Background;
import org.postgresql.PGConnection;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Listens for revisions that other instances commit, on a connection of its own, and has the live
 * model take them up. After a lost connection, and every few seconds whatever was heard, the
 * numbers are compared, so that nothing stays unheard.
 *
 * <p>Also reads the model when the server starts, so that the first question need not wait.
 */
@Component
class RevisionListener extends Background {

  private static final Logger LOG = LoggerFactory.getLogger(RevisionListener.class);
  private static final int COMPARE_EVERY_MILLIS = 5_000;
  private static final long PAUSE_MILLIS = 200;

  private final LiveModel model;
  private final String url;
  private final String user;
  private final String password;

  RevisionListener(
      LiveModel model,
      @Value("${spring.datasource.url}") String url,
      @Value("${spring.datasource.username}") String user,
      @Value("${spring.datasource.password:}") String password) {
    super("model-news", PAUSE_MILLIS);
    this.model = model;
    this.url = url;
    this.user = user;
    this.password = password;
  }

  @Override
  protected void run() throws SQLException {
    try (Connection connection = DriverManager.getConnection(url, user, password);
        var statement = connection.createStatement()) {
      statement.execute("listen " + LiveModel.CHANNEL);
      while (isMine()) {
        if (model.catchUp()) {
          LOG.debug("Took up revision {}", model.state().revision());
        }
        succeeded();
        connection.unwrap(PGConnection.class).getNotifications(COMPARE_EVERY_MILLIS);
      }
    }
  }
}
