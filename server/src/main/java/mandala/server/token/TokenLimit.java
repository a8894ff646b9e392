package mandala.server.token;

import io.github.bucket4j.ConsumptionProbe;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import mandala.server.platform.Buckets;
import mandala.server.platform.Problem;
import mandala.server.session.SignedIn;
import org.springframework.http.HttpHeaders;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;
import tools.jackson.databind.json.JsonMapper;

/**
 * Limits the calls of each token in a minute, over all instances, and says so in the header fields
 * {@code RateLimit-Policy} and {@code RateLimit} of the IETF's httpapi working group and {@code
 * Retry-After} (RFC 9110, section 10.2.3).
 */
final class TokenLimit extends OncePerRequestFilter {

  private static final Duration WHILE = Duration.ofMinutes(1);

  private final Buckets buckets;
  private final int calls;
  private final JsonMapper json;

  /**
   * Limits tokens.
   *
   * @param calls how many calls a token has in a minute
   */
  TokenLimit(Buckets buckets, int calls, JsonMapper json) {
    this.buckets = buckets;
    this.calls = calls;
    this.json = json;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest call, HttpServletResponse answer, FilterChain rest)
      throws ServletException, IOException {
    Authentication caller = SecurityContextHolder.getContext().getAuthentication();
    if (caller != null
        && caller.getPrincipal() instanceof SignedIn signedIn
        && signedIn.token() != null
        && !take(signedIn.token().id(), answer)) {
      Problem.busy("This token has used up its calls of this minute. Wait as Retry-After says.")
          .send(answer, json);
      return;
    }
    rest.doFilter(call, answer);
  }

  private boolean take(String token, HttpServletResponse answer) {
    ConsumptionProbe taken =
        buckets.of("token:" + token, calls, WHILE).tryConsumeAndReturnRemaining(1);
    long whole = seconds(taken.getNanosToWaitForReset());
    answer.setHeader("RateLimit-Policy", "\"token\";q=" + calls + ";w=" + WHILE.toSeconds());
    answer.setHeader("RateLimit", "\"token\";r=" + taken.getRemainingTokens() + ";t=" + whole);
    if (!taken.isConsumed()) {
      answer.setHeader(
          HttpHeaders.RETRY_AFTER, String.valueOf(seconds(taken.getNanosToWaitForRefill())));
    }
    return taken.isConsumed();
  }

  /** Whole seconds, rounded up. */
  private static long seconds(long nanos) {
    return Math.ceilDiv(nanos, Duration.ofSeconds(1).toNanos());
  }
}
