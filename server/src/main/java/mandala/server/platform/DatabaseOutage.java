package mandala.server.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.SQLTransientConnectionException;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.web.filter.OncePerRequestFilter;
import tools.jackson.databind.json.JsonMapper;

/** Answers 503 where the session store, ahead of every feature, cannot reach the database. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class DatabaseOutage extends OncePerRequestFilter {

  private final JsonMapper json;

  DatabaseOutage(JsonMapper json) {
    this.json = json;
  }

  static boolean isOne(@Nullable Throwable e) {
    for (Throwable at = e; at != null; at = at.getCause()) {
      if (at instanceof CannotCreateTransactionException
          || at instanceof DataAccessResourceFailureException
          || at instanceof SQLTransientConnectionException
          || at instanceof SQLNonTransientConnectionException
          || (at instanceof java.sql.SQLException sql && isLost(sql))) {
        return true;
      }
    }
    return false;
  }

  /**
   * A broken connection (class 08), a server that shuts down (57P), or a pool's closed connection.
   */
  private static boolean isLost(java.sql.SQLException e) {
    String state = e.getSQLState();
    return state == null
        ? "Connection is closed".equals(e.getMessage())
        : state.startsWith("08") || state.startsWith("57P");
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    try {
      chain.doFilter(request, response);
    } catch (RuntimeException | ServletException e) {
      if (!isOne(e) || response.isCommitted()) {
        throw e;
      }
      response.reset();
      Problem.databaseAway().send(response, json);
    }
  }
}
