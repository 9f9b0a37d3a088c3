using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>Entities find their blocks, whatever lists and owners say.</summary>
public class DwgAssemblyTests
{
    private static (Drawing Drawing, BlockRecord[] Blocks) Put(
        Dictionary<string, ulong[]> lists,
        Dictionary<ulong, ulong> owners,
        params CadObject[] more
    )
    {
        var drawing = new Drawing { Version = CadVersion.AC1024 };
        var beside = new DwgReadState();
        BlockRecord[] blocks =
        [
            .. lists.Select((l, i) => new BlockRecord { Name = l.Key, Handle = new Handle((ulong)i + 1) }),
        ];
        foreach (var block in blocks)
            block.Owned.AddRange(lists[block.Name].Select(h => new Handle(h)));
        List<CadObject> all =
        [
            .. blocks,
            .. owners.Select(o => new Line { Handle = new Handle(o.Key), Owner = new Handle(o.Value) }),
            .. more,
        ];
        var objects = new DwgObjects([.. all.Select(o => (o.Handle, 0L))], false);
        for (int i = 0; i < all.Count; i++)
        {
            objects.Put(i, all[i], default);
            beside.Note(all[i]);
        }

        new DwgAssembly(drawing, objects, new Handle[4], beside, null).Run();
        return (drawing, blocks);
    }

    private static string Held(BlockRecord block) => string.Join(' ', block.Entities.Select(e => e.Handle));

    [Fact]
    public void Lists_give_the_order()
    {
        var (drawing, blocks) = Put(
            new() { ["A"] = [0x12, 0x10], ["B"] = [0x11] },
            new()
            {
                [0x10] = 1,
                [0x11] = 2,
                [0x12] = 1,
            }
        );
        Assert.Equal(["12 10", "11"], blocks.Select(Held));
        Assert.Empty(drawing.Findings);
    }

    [Fact]
    public void Who_stands_in_two_lists_is_in_one_block()
    {
        var (drawing, blocks) = Put(
            new()
            {
                ["A"] = [0x10, 0x11, 0x14],
                ["B"] = [0x11, 0x12],
                ["C"] = [0x14],
            },
            new()
            {
                [0x10] = 1,
                [0x11] = 2,
                [0x12] = 2,
                [0x14] = 9,
            }
        );
        // 11 says it is in B; 14 belongs to neither of those that name it, and the first gets it.
        Assert.Equal(["10 14", "11 12", ""], blocks.Select(Held));
        Assert.All(blocks.SelectMany(b => b.Entities.Select(e => (b, e))), p => Assert.Equal(p.b.Handle, p.e.Owner));
        Assert.Empty(drawing.Findings);
    }

    [Fact]
    public void Who_stands_in_no_list_goes_where_it_says_or_is_told()
    {
        var (drawing, blocks) = Put(
            new() { ["A"] = [0x10, 0x77] },
            new()
            {
                [0x10] = 1,
                [0x11] = 1,
                [0x12] = 0x55,
            }
        );
        Assert.Equal("10 11", Held(blocks[0]));
        Assert.Equal(["CAD-CHAIN", "CAD-OWNER"], drawing.Findings.Select(f => f.Code));
    }

    [Fact]
    public void Parts_go_to_the_entity_that_names_them()
    {
        var first = new Insert
        {
            Handle = new(0x20),
            Owner = new(1),
            End = new(0x30),
        };
        var second = new Insert
        {
            Handle = new(0x21),
            Owner = new(1),
            End = new(0x31),
        };
        first.Owned.AddRange([new(0x22), new(0x23)]);
        second.Owned.AddRange([new(0x23), new(0x24)]);
        CadObject[] parts =
        [
            .. new ulong[] { 0x22, 0x23, 0x24 }.Select(h => new AttributeEntity
            {
                Handle = new(h),
                Owner = h == 0x24 ? new(0x21) : new(0x20),
            }),
        ];
        var (_, blocks) = Put(new() { ["A"] = [0x20, 0x21] }, [], [first, second, .. parts]);
        Assert.Equal("20 21", Held(blocks[0]));
        Assert.Equal(
            ["22 23", "24"],
            new[] { first, second }.Select(i => string.Join(' ', i.Parts.Select(p => p.Handle)))
        );
    }

    // Blocks are put together side by side; what is in them must not depend on it.
    [Fact]
    public void Many_blocks_give_the_same_every_time()
    {
        var random = new Random(11);
        var owners = Enumerable
            .Range(0, 9000)
            .ToDictionary(i => 0x10000UL + (ulong)i, _ => (ulong)random.Next(1, 1301));
        var lists = Enumerable
            .Range(1, 1300)
            .ToDictionary(
                b => "B" + b,
                b =>
                    owners
                        .Where(o => o.Value == (ulong)b)
                        .Select(o => o.Key)
                        .Concat(b % 7 == 0 ? [0x10000UL + (ulong)random.Next(9000)] : [])
                        .ToArray()
            );
        string[] Once() => [.. Put(lists, owners).Blocks.Select(Held)];
        string[] told = Once();
        Assert.Equal(9000, told.Sum(t => t.Length == 0 ? 0 : t.Split(' ').Length));
        for (int round = 0; round < 5; round++)
            Assert.Equal(told, Once());
    }
}
