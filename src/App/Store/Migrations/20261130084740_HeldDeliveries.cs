using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261130084740_HeldDeliveries")]
    public partial class HeldDeliveries : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "bodiless",
                table: "revisions",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "derived",
                table: "revisions",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<bool>(
                name: "has_parts",
                table: "revisions",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "in_use",
                table: "revisions",
                type: "boolean",
                nullable: false,
                defaultValue: true);

            migrationBuilder.AddColumn<int>(
                name: "rooms",
                table: "revisions",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateTime>(
                name: "deleted_at",
                table: "orders",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "version",
                table: "orders",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "settings",
                table: "jobs",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string[]>(
                name: "relations",
                table: "elements",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<double>(
                name: "size",
                table: "elements",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<int[]>(
                name: "wholes",
                table: "elements",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<DateTime>(
                name: "decided_at",
                table: "deliveries",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "decided_by",
                table: "deliveries",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "decision",
                table: "deliveries",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string[]>(
                name: "held_for",
                table: "deliveries",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<long>(
                name: "last_code_step",
                table: "AspNetUsers",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<bool>(
                name: "single_keys",
                table: "AspNetUsers",
                type: "boolean",
                nullable: false,
                defaultValue: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "bodiless",
                table: "revisions");

            migrationBuilder.DropColumn(
                name: "derived",
                table: "revisions");

            migrationBuilder.DropColumn(
                name: "has_parts",
                table: "revisions");

            migrationBuilder.DropColumn(
                name: "in_use",
                table: "revisions");

            migrationBuilder.DropColumn(
                name: "rooms",
                table: "revisions");

            migrationBuilder.DropColumn(
                name: "deleted_at",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "version",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "settings",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "relations",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "size",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "wholes",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "decided_at",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "decided_by",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "decision",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "held_for",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "last_code_step",
                table: "AspNetUsers");

            migrationBuilder.DropColumn(
                name: "single_keys",
                table: "AspNetUsers");
        }
    }
}
