namespace SteadyLintel.Demo;

// Stairs and their railings.
internal sealed partial class Architecture
{
    private void Stairs(string storey, double rise)
    {
        foreach (int bay in (int[])[1, 4])
        {
            string key = $"stair/{storey}/{bay}";
            int placement = _b.Placement(_site.Placement(storey), (bay * Site.Bay) + 2, Site.Bay + 2.4, 0);
            int stair = _b.Root(
                "IFCSTAIR",
                key,
                $"'Stair {(char)('A' + bay)}',$,$,#{placement},$,$,.STRAIGHT_RUN_STAIR."
            );
            _b.Contain(stair, _site.Storey(storey));
            int flight = _b.Root(
                "IFCSTAIRFLIGHT",
                $"{key}/flight",
                $"'Flight',$,$,#{Upright(placement)},#{_b.Solid("A-STRS", Stone, _b.Extrude(Steps(rise), 1.6))},$,{(int)(rise / 0.16)},$,$,$,.STRAIGHT."
            );
            int[] railings =
            [
                .. new[] { 0.0, 1.55 }.Select((y, n) => Railing($"{key}/railing/{n}", placement, y, rise)),
            ];
            _b.Aggregate(key, stair, [flight, .. railings]);
        }
    }

    // Profiles of flights and railings are upright: their Y is the building's Z.
    private int Upright(int placement) => _b.PlacementAlong(placement, (0, 1.6, 0), (0, -1, 0), (1, 0, 0));

    private int Steps(double rise)
    {
        int count = (int)Math.Round(rise / 0.16);
        double riser = rise / count,
            tread = 5.0 / count;
        var points = new List<(double, double)> { (0, 0) };
        for (int i = 0; i < count; i++)
        {
            points.Add((i * tread, (i + 1) * riser));
            points.Add(((i + 1) * tread, (i + 1) * riser));
        }

        points.Add((5.0, rise - 0.35));
        points.Add((0.35, 0));
        return _b.Outline(points);
    }

    private int Railing(string key, int placement, double y, double rise)
    {
        int at = _b.PlacementAlong(placement, (0, y + 0.05, 0), (0, -1, 0), (1, 0, 0));
        int profile = _b.Outline([(0, 0.9), (5, rise + 0.9), (5, rise + 0.95), (0, 0.95)]);
        return _b.Root(
            "IFCRAILING",
            key,
            $"'Handrail',$,$,#{at},#{_b.Solid("A-RAIL", Zinc, _b.Extrude(profile, 0.05))},$,.HANDRAIL."
        );
    }
}
