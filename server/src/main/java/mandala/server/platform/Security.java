package mandala.server.platform;

import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import tools.jackson.databind.json.JsonMapper;

/** Who may call at all: screens and sign-in everybody, the rest who is signed in, all with CSRF. */
@Configuration
class Security {

  private static final String CONTENT_POLICY =
      "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline';"
          + " frame-ancestors 'self'; base-uri 'self'; form-action 'self'";

  @Bean
  PasswordEncoder passwords() {
    return Argon2PasswordEncoder.defaultsForSpringSecurity_v5_8();
  }

  @Bean
  SecurityContextRepository contexts() {
    return new HttpSessionSecurityContextRepository();
  }

  @Bean
  SecurityFilterChain chain(
      HttpSecurity http, SecurityContextRepository contexts, JsonMapper json) {
    return http.csrf(csrf -> csrf.spa())
        .securityContext(context -> context.securityContextRepository(contexts))
        .headers(headers ->
            headers
                // two views stand side by side in one window, both our own
                .frameOptions(frames -> frames.sameOrigin())
                .contentSecurityPolicy(csp -> csp.policyDirectives(CONTENT_POLICY)))
        .formLogin(form -> form.disable())
        .httpBasic(basic -> basic.disable())
        .logout(logout -> logout.disable())
        .requestCache(cache -> cache.disable())
        .authorizeHttpRequests(calls ->
            calls
                .dispatcherTypeMatchers(DispatcherType.FORWARD, DispatcherType.ERROR)
                .permitAll()
                .requestMatchers("/api/session", "/api/demo/**", "/api/welcome/**")
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
                    write(
                        Problem.signedOut("Sign in again; what you typed is still here."),
                        response,
                        json))
                .accessDeniedHandler((_, response, _) ->
                    write(
                        Problem.forbidden(
                            "The call lacks its protection token, or nobody may make it."
                                + " Load the page again."),
                        response,
                        json)))
        .build();
  }

  private static void write(Problem problem, HttpServletResponse response, JsonMapper json)
      throws IOException {
    ProblemDetail document = problem.document();
    response.setStatus(document.getStatus());
    response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
    json.writeValue(response.getOutputStream(), document);
  }
}
