package main

import "github.com/spf13/cobra"

func demoCommand() *cobra.Command    { return &cobra.Command{Use: "demo"} }
func serveCommand() *cobra.Command   { return &cobra.Command{Use: "serve"} }
func importCommand() *cobra.Command  { return &cobra.Command{Use: "import"} }
func exportCommand() *cobra.Command  { return &cobra.Command{Use: "export"} }
func backupCommand() *cobra.Command  { return &cobra.Command{Use: "backup"} }
func restoreCommand() *cobra.Command { return &cobra.Command{Use: "restore"} }
