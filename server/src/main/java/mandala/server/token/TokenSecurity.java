package mandala.server.token;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.platform.Buckets;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.SignedIn;
import mandala.server.session.Throttle;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authorization.AuthorizationDecision;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.AuthorizationFilter;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.authentication.AuthenticationFilter;
import org.springframework.security.web.authentication.preauth.PreAuthenticatedAuthenticationToken;
import tools.jackson.databind.json.JsonMapper;

/**
 * Calls that come with a token (RFC 6750, section 2.1) in place of a session: they carry no cookie
 * of which a foreign page could make use, and so need no protection token. Only what a token is for
 * is open to it. A token in an address is not looked at: addresses get into logs.
 */
@Configuration
class TokenSecurity {

  private static final String SCHEME = "bearer ";

  private final Tokens tokens;
  private final Throttle throttle;
  private final Trail trail;
  private final AuditContext auditContext;
  private final JsonMapper json;

  TokenSecurity(
      Tokens tokens, Throttle throttle, Trail trail, AuditContext auditContext, JsonMapper json) {
    this.tokens = tokens;
    this.throttle = throttle;
    this.trail = trail;
    this.auditContext = auditContext;
    this.json = json;
  }

  @Bean
  @Order(1)
  SecurityFilterChain callsWithTokens(
      HttpSecurity http, Buckets buckets, @Value("${mandala.tokens.calls:300}") int calls) {
    AuthenticationFilter signIn = new AuthenticationFilter(manager(), TokenSecurity::secret);
    signIn.setSuccessHandler((_, _, _) -> {});
    signIn.setFailureHandler(this::refuse);
    return http.securityMatcher(call -> isWithToken(call))
        .csrf(csrf -> csrf.disable())
        .sessionManagement(it -> it.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
        .formLogin(form -> form.disable())
        .httpBasic(basic -> basic.disable())
        .logout(logout -> logout.disable())
        .requestCache(cache -> cache.disable())
        .addFilterBefore(signIn, AnonymousAuthenticationFilter.class)
        .addFilterBefore(new TokenLimit(buckets, calls, json), AuthorizationFilter.class)
        .authorizeHttpRequests(rules ->
            rules
                .anyRequest()
                .access((caller, call) ->
                    new AuthorizationDecision(isOpen(caller.get(), call.getRequest()))))
        .exceptionHandling(refusals ->
            refusals
                .authenticationEntryPoint(this::refuse)
                .accessDeniedHandler((call, answer, _) -> refuseClosed(call, answer)))
        .build();
  }

  private static boolean isWithToken(HttpServletRequest call) {
    String sent = call.getHeader(HttpHeaders.AUTHORIZATION);
    return sent != null && sent.toLowerCase(Locale.ROOT).startsWith(SCHEME);
  }

  private static PreAuthenticatedAuthenticationToken secret(HttpServletRequest call) {
    String sent = call.getHeader(HttpHeaders.AUTHORIZATION).substring(SCHEME.length()).strip();
    return new PreAuthenticatedAuthenticationToken("", sent);
  }

  private AuthenticationManager manager() {
    return sent -> {
      Token token =
          tokens
              .find(String.valueOf(sent.getCredentials()))
              .orElseThrow(() -> new BadCredentialsException("no such token"));
      SignedIn signedIn =
          new SignedIn(
              token.principal(),
              false,
              new SignedIn.ByToken(token.id(), token.name(), token.accounts(), token.purposes()));
      if (tokens.used(token, AuditContext.address())) {
        trail.writeAlone(
            auditContext.of(
                signedIn,
                AuditEvent.Act.TOKEN_USED,
                List.copyOf(token.accounts()),
                "Called with a token for the first time on this day"));
      }
      return new PreAuthenticatedAuthenticationToken(signedIn, "", List.of());
    };
  }

  private static SignedIn.@Nullable ByToken token(@Nullable Authentication caller) {
    return caller != null && caller.getPrincipal() instanceof SignedIn signedIn
        ? signedIn.token()
        : null;
  }

  private static boolean isOpen(@Nullable Authentication caller, HttpServletRequest call) {
    SignedIn.ByToken token = token(caller);
    return token != null
        && token.purposes().stream()
            .flatMap(it -> TokenPurpose.of(it).stream())
            .anyMatch(it -> it.opens(call.getMethod(), call.getRequestURI()));
  }

  private void refuse(
      HttpServletRequest call, HttpServletResponse answer, AuthenticationException why)
      throws IOException {
    answer.setHeader(HttpHeaders.WWW_AUTHENTICATE, "Bearer error=\"invalid_token\"");
    Problem problem =
        Problem.signedOut(
            "The token is unknown, revoked or past its end. Make one under Settings, Tokens.");
    try {
      throttle.wrongToken(call.getRemoteAddr());
    } catch (Problem tooMany) {
      problem = tooMany;
    }
    problem.send(answer, json);
  }

  private void refuseClosed(HttpServletRequest call, HttpServletResponse answer)
      throws IOException {
    SignedIn.ByToken token = token(SecurityContextHolder.getContext().getAuthentication());
    if (token != null) {
      trail.writeAlone(
          auditContext.by(
              AuditEvent.Act.REFUSED,
              List.copyOf(token.accounts()),
              call.getMethod() + " of what the token is not for"));
    }
    answer.setHeader(HttpHeaders.WWW_AUTHENTICATE, "Bearer error=\"insufficient_scope\"");
    Problem.forbidden(
            "This token is not for this call. Make one under Settings, Tokens, that is, or call as"
                + " a person.")
        .send(answer, json);
  }
}
