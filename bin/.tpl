#!/usr/bin/env bash
. "$(dirname "$0")/common.sh"
use_data .data-test
start_cluster 54620 postgres -c fsync=off -c synchronous_commit=off -c full_page_writes=off
trap stop_cluster EXIT
export ENGINE_PORT=$(free_port 3901) ARCH_LOG=warn
node --import tsx tests/support/make-templates.ts ${1:-}
