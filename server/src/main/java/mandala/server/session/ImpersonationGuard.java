package mandala.server.session;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/**
 * Refuses every call that could change something in an impersonated view (section 7), before its
 * body is read: whatever a controller asks or forgets to ask. Only one's own session and the views
 * themselves can be ended and begun from within one.
 */
@Component
class ImpersonationGuard implements HandlerInterceptor, WebMvcConfigurer {

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry
        .addInterceptor(this)
        .addPathPatterns("/api/**")
        .excludePathPatterns("/api/session", "/api/session/**", "/api/views", "/api/views/**");
  }

  @Override
  public boolean preHandle(HttpServletRequest call, HttpServletResponse answer, Object handler) {
    Impersonation seen = Impersonation.current();
    if (seen != null && !seen.onlyReads()) {
      throw Problem.forbidden(
          "You can't change anything in an impersonated view."
              + " Leave the view and change it as yourself.");
    }
    return true;
  }
}
