//! A graphics card without a window, and targets whose pixels can be read.

use velvet_pan_wgpu::velvet_pan::glam::UVec2;
use velvet_pan_wgpu::wgpu::{self, TextureFormat, TextureUsages};

/// An open graphics card.
pub struct Card {
    pub device: wgpu::Device,
    pub queue: wgpu::Queue,
    /// Its name and that of its driver.
    pub name: String,
}

impl Card {
    /// Opens the first graphics card, or a software driver.
    pub fn open() -> Result<Self, Box<dyn std::error::Error>> {
        pollster::block_on(async {
            let adapter = wgpu::Instance::default().request_adapter(&Default::default()).await?;
            let info = adapter.get_info();
            let (device, queue) = adapter
                .request_device(&wgpu::DeviceDescriptor {
                    required_limits: adapter.limits(),
                    ..Default::default()
                })
                .await?;
            Ok(Self { device, queue, name: format!("{}, {}", info.name, info.driver) })
        })
    }

    /// Creates a texture that can be drawn into and read.
    pub fn target(&self, size: UVec2, format: TextureFormat) -> wgpu::Texture {
        self.device.create_texture(&wgpu::TextureDescriptor {
            label: Some("target"),
            size: wgpu::Extent3d { width: size.x, height: size.y, depth_or_array_layers: 1 },
            mip_level_count: 1,
            sample_count: 1,
            dimension: wgpu::TextureDimension::D2,
            format,
            usage: TextureUsages::RENDER_ATTACHMENT
                | TextureUsages::COPY_SRC
                | TextureUsages::COPY_DST,
            view_formats: &[],
        })
    }

    /// Reads the pixels of a texture with four channels of 8 bits, row by row from the top.
    pub fn read(&self, texture: &wgpu::Texture) -> Result<Vec<[u8; 4]>, wgpu::PollError> {
        let row = texture.width() * 4;
        let padded = row.next_multiple_of(wgpu::COPY_BYTES_PER_ROW_ALIGNMENT);
        let buffer = self.device.create_buffer(&wgpu::BufferDescriptor {
            label: Some("pixels"),
            size: u64::from(padded) * u64::from(texture.height()),
            usage: wgpu::BufferUsages::COPY_DST | wgpu::BufferUsages::MAP_READ,
            mapped_at_creation: false,
        });
        let mut encoder = self.device.create_command_encoder(&Default::default());
        encoder.copy_texture_to_buffer(
            texture.as_image_copy(),
            wgpu::TexelCopyBufferInfo {
                buffer: &buffer,
                layout: wgpu::TexelCopyBufferLayout {
                    offset: 0,
                    bytes_per_row: Some(padded),
                    rows_per_image: None,
                },
            },
            texture.size(),
        );
        self.queue.submit([encoder.finish()]);
        buffer.slice(..).map_async(wgpu::MapMode::Read, |_| {});
        self.device.poll(wgpu::PollType::wait_indefinitely())?;
        let bytes = buffer.slice(..).get_mapped_range().expect("mapped by the poll above");
        let rows = bytes.chunks_exact(padded as usize);
        Ok(rows.flat_map(|bytes| bytemuck::cast_slice(&bytes[..row as usize]).to_vec()).collect())
    }
}
