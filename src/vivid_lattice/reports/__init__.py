"""What leaves the application: sheets, tables, drawings, bundles. Nothing here computes; it prints what the core has found."""
