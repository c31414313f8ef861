//go:build tools

package e2e

// What a generated client needs, so that it stays among the modules.
import _ "github.com/oapi-codegen/runtime"
