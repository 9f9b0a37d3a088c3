using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261128101339_WorkLeases")]
    public partial class WorkLeases : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_property_sets_revision_id_name",
                table: "property_sets");

            migrationBuilder.DropPrimaryKey(
                name: "pk_facets",
                table: "facets");

            migrationBuilder.AddColumn<int>(
                name: "attempts",
                table: "transmittals",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateTime>(
                name: "beat",
                table: "transmittals",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "deaths",
                table: "transmittals",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<Guid>(
                name: "worker",
                table: "transmittals",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "facets",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "attempts",
                table: "deliveries",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateTime>(
                name: "beat",
                table: "deliveries",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "deaths",
                table: "deliveries",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<Guid>(
                name: "worker",
                table: "deliveries",
                type: "uuid",
                nullable: true);

            migrationBuilder.Sql("""
                UPDATE facets f SET number = n.at
                FROM (SELECT ctid, row_number() OVER (PARTITION BY revision_id ORDER BY storey, class, layer) - 1 AS at FROM facets) n
                WHERE f.ctid = n.ctid
                """);

            migrationBuilder.AddPrimaryKey(
                name: "pk_facets",
                table: "facets",
                columns: new[] { "revision_id", "number" });

            migrationBuilder.CreateIndex(
                name: "ix_transmittals_state",
                table: "transmittals",
                column: "state");

            migrationBuilder.CreateIndex(
                name: "ix_deliveries_state",
                table: "deliveries",
                column: "state");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("What a worker has begun cannot be put back; restore a backup made before the upgrade.");
    }
}
