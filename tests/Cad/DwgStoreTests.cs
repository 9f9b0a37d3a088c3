using System.Buffers.Binary;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>The data store of DWG from 2013 on.</summary>
public class DwgStoreTests
{
    private static readonly byte[] One = new BinaryAcis().Tetrahedron().Bytes(),
        Two = AcisWriter.Binary(Polyhedron.Of(SolidBodies.Ell)!);
    private static readonly Handle[] Owners = [new(0x40), new(0x1F00)];

    private static List<StoredData> Records =>
        [
            new(Owners[0], StoredData.Bodies, One),
            new(new Handle(7), StoredData.Pictures, [1, 2, 3]),
            new(Owners[1], StoredData.Bodies, Two),
        ];

    private static void Same(IEnumerable<StoredData> expected, IEnumerable<StoredData> actual) =>
        Assert.Equal(
            expected.Select(r => (r.Owner, r.Schema, Convert.ToHexString(r.Data))),
            actual.Select(r => (r.Owner, r.Schema, Convert.ToHexString(r.Data)))
        );

    [Fact]
    public void Records_come_back_with_owner_and_schema() =>
        Same(Records, DwgStoreReader.Read(DwgStoreWriter.Write(Records), Owners));

    [Fact]
    public void The_head_says_where_everything_is()
    {
        byte[] store = DwgStoreWriter.Write(Records);
        Assert.Equal("jard"u8.ToArray(), store[..4]);
        Assert.Equal(store.Length, BinaryPrimitives.ReadInt32LittleEndian(store.AsSpan(0x34)));
        int index = BinaryPrimitives.ReadInt32LittleEndian(store.AsSpan(DwgStoreLayout.IndexAt)),
            count = BinaryPrimitives.ReadInt32LittleEndian(store.AsSpan(DwgStoreLayout.IndexCountAt));
        int behind = DwgStoreLayout.Head;
        for (int i = 1; i < count; i++)
        {
            var entry = store.AsSpan(index + DwgStoreLayout.SegmentHead + (12 * i), 12);
            int at = (int)BinaryPrimitives.ReadInt64LittleEndian(entry),
                size = BinaryPrimitives.ReadInt32LittleEndian(entry[8..]);
            // Segments follow one another, each with its mark, its own number and its size.
            Assert.Equal(
                (behind, 0xD5AC, i, size),
                (
                    at,
                    BinaryPrimitives.ReadUInt16LittleEndian(store.AsSpan(at)),
                    BinaryPrimitives.ReadInt32LittleEndian(store.AsSpan(at + 8)),
                    BinaryPrimitives.ReadInt32LittleEndian(store.AsSpan(at + 16))
                )
            );
            Assert.Equal(0, at % DwgStoreLayout.Alignment);
            behind += size;
        }

        Assert.Equal(store.Length, behind);
    }

    // Where the lists lead nowhere bodies are known by how they begin and end.
    [Theory]
    [InlineData(0)]
    [InlineData(DwgStoreLayout.IndexAt)]
    [InlineData(DwgStoreLayout.DataIndexAt)]
    public void Bodies_are_found_without_the_lists(int damaged)
    {
        byte[] store = DwgStoreWriter.Write(Records);
        store.AsSpan(damaged, 4).Fill(0x7F);
        Same([Records[0], Records[2]], DwgStoreReader.Read(store, Owners));
    }

    [Fact]
    public void Pages_are_put_together()
    {
        // The record of the first body names two pages instead of holding the data.
        byte[] store = DwgStoreWriter.Write([new(Owners[0], StoredData.Bodies, new byte[64])]);
        int data =
            DwgStoreLayout.Head
            + (
                16
                * BinaryPrimitives.ReadInt32LittleEndian(
                    store.AsSpan(DwgStoreLayout.Head + DwgStoreLayout.ObjectAlignmentAt)
                )
            );
        int half = One.Length / 2,
            index = BinaryPrimitives.ReadInt32LittleEndian(store.AsSpan(DwgStoreLayout.IndexAt));
        var whole = new MemoryStream();
        whole.Write(store);
        BinaryPrimitives.WriteUInt32LittleEndian(store.AsSpan(data), DwgStoreLayout.Pages);
        int[] numbers = [One.Length, 0, 2, 0, half, One.Length - half, 0, 0, 5, half, 6, One.Length - half];
        for (int i = 0; i < numbers.Length; i++)
            BinaryPrimitives.WriteInt32LittleEndian(store.AsSpan(data + 4 + (4 * i)), numbers[i]);
        // Segments of no further use give their places in the list to the pages.
        byte[][] pages = [One[..half], One[half..]];
        for (int p = 0; p < 2; p++)
        {
            var entry = store.AsSpan(index + DwgStoreLayout.SegmentHead + (12 * (5 + p)));
            BinaryPrimitives.WriteInt64LittleEndian(entry, whole.Length);
            byte[] head = new byte[DwgStoreLayout.SegmentHead + 32];
            BinaryPrimitives.WriteUInt16LittleEndian(head, 0xD5AC);
            "blob01"u8.CopyTo(head.AsSpan(2));
            whole.Write(head);
            whole.Write(pages[p]);
        }

        whole.Position = 0;
        whole.Write(store);
        Assert.Equal(One, Assert.Single(DwgStoreReader.Read(whole.ToArray(), [Owners[0]])).Data);
    }

    // What belongs to kinds kept as bits stays with them, and goes where the version has a store.
    [Fact]
    public void Records_of_others_are_kept()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Stored.Add(new StoredData(new Handle(0x99), StoredData.Pictures, [9, 8, 7]));
        using var stream = new MemoryStream();
        Assert.Empty(DwgWriter.Write(drawing, stream, CadVersion.AC1032));
        var again = DwgReader.Read(stream.ToArray());
        Same(drawing.Stored, again.Stored);
        using var older = new MemoryStream();
        Assert.Equal("CAD-SECTION-LEFT", Assert.Single(DwgWriter.Write(again, older, CadVersion.AC1018)).Code);
    }

    [Fact]
    public void A_damaged_store_gives_what_it_can_and_ends()
    {
        byte[] whole = DwgStoreWriter.Write(Records);
        var random = new Random(7);
        for (int round = 0; round < 3000; round++)
        {
            byte[] broken = [.. whole];
            for (int k = 0; k < 3; k++)
                broken[random.Next(broken.Length)] = (byte)random.Next(256);
            Assert.True(
                DwgStoreReader.Read(broken[..random.Next(broken.Length)], Owners).Sum(r => (long)r.Data.Length)
                    <= 2L * whole.Length
            );
            _ = DwgStoreReader.Read(broken, Owners);
        }
    }
}
