package mandala.server.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import tools.jackson.databind.json.JsonMapper;

/**
 * Answers only calls that name a host by which this server is meant to be reached ({@code
 * mandala.hosts}): a name that somebody else points here, to read the answers in a page of theirs,
 * gets none.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 10)
class AllowedHosts extends OncePerRequestFilter {

  private final Set<String> hosts = new TreeSet<>();
  private final JsonMapper json;

  AllowedHosts(
      @Value("${mandala.hosts:localhost,127.0.0.1,[::1]}") Set<String> hosts, JsonMapper json) {
    hosts.forEach(it -> this.hosts.add(it.strip().toLowerCase(Locale.ROOT)));
    this.json = json;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest call, HttpServletResponse answer, FilterChain chain)
      throws ServletException, IOException {
    String host = String.valueOf(call.getServerName()).toLowerCase(Locale.ROOT);
    if (hosts.contains(host) || hosts.contains("[" + host + "]")) {
      chain.doFilter(call, answer);
      return;
    }
    Problem.badRequest(
            "This host is not served here",
            "Use an address that this Mandala is set up for, or add the host to mandala.hosts.")
        .send(answer, json);
  }
}
