package mandala.server.platform;

import jakarta.servlet.DispatcherType;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter;
import tools.jackson.databind.json.JsonMapper;

/** Who may call at all: screens and sign-in everybody, the rest who is signed in, all with CSRF. */
@Configuration
class Security {

  private static final String CONTENT_POLICY =
      "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline';"
          + " frame-ancestors 'self'; base-uri 'self'; form-action 'self'";

  private static final String PERMISSIONS_POLICY =
      "camera=(), microphone=(), geolocation=(), payment=(), usb=(), browsing-topics=()";

  @Bean
  PasswordEncoder passwords() {
    // OWASP's password storage cheat sheet, November 2026: 19 MiB, two passes, one lane
    return new Argon2PasswordEncoder(16, 32, 1, 19_456, 2);
  }

  @Bean
  SecurityContextRepository contexts() {
    return new HttpSessionSecurityContextRepository();
  }

  /** The script of the page reads the token; no other site gets it along with a call. */
  @Bean
  CsrfTokenRepository protectionTokens() {
    CookieCsrfTokenRepository tokens = CookieCsrfTokenRepository.withHttpOnlyFalse();
    tokens.setCookieCustomizer(cookie -> cookie.sameSite("Strict"));
    return tokens;
  }

  @Bean
  SecurityFilterChain chain(
      HttpSecurity http,
      SecurityContextRepository contexts,
      CsrfTokenRepository tokens,
      JsonMapper json) {
    return http.csrf(csrf -> csrf.spa().csrfTokenRepository(tokens))
        .securityContext(context -> context.securityContextRepository(contexts))
        .headers(headers ->
            headers
                // two views stand side by side in one window, both our own
                .frameOptions(frames -> frames.sameOrigin())
                .contentSecurityPolicy(csp -> csp.policyDirectives(CONTENT_POLICY))
                .referrerPolicy(referrer ->
                    referrer.policy(ReferrerPolicyHeaderWriter.ReferrerPolicy.SAME_ORIGIN))
                .permissionsPolicyHeader(permissions -> permissions.policy(PERMISSIONS_POLICY)))
        .formLogin(form -> form.disable())
        .httpBasic(basic -> basic.disable())
        .logout(logout -> logout.disable())
        .requestCache(cache -> cache.disable())
        .authorizeHttpRequests(calls ->
            calls
                .dispatcherTypeMatchers(DispatcherType.FORWARD, DispatcherType.ERROR)
                .permitAll()
                .requestMatchers("/api/session", "/api/demo/**", "/api/welcome/**", "/api/join/**")
                .permitAll()
                .requestMatchers("/api/**")
                .authenticated()
                .requestMatchers(HttpMethod.GET, "/**")
                .permitAll()
                .anyRequest()
                .denyAll())
        .exceptionHandling(refusals ->
            refusals
                .authenticationEntryPoint((_, response, _) ->
                    Problem.signedOut("Sign in again; what you typed is still here.")
                        .send(response, json))
                .accessDeniedHandler((_, response, _) ->
                    Problem.forbidden("Your session token is missing or expired. Reload the page.")
                        .send(response, json)))
        .build();
  }
}
