/**
 * Whether the rules of the model hold, after each revision and when asked; entry point {@link
 * mandala.server.compliance.ComplianceMonitor}.
 */
@NullMarked
package mandala.server.compliance;

import org.jspecify.annotations.NullMarked;
